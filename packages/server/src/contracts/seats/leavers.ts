import { dateOf, type Id, type Outcome, plusDays } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';

type Unit = Id<'contact'> | Id<'asset'>;
interface LeftSeat extends Row<'contract_seat', 'id' | 'starts_on'> {
  readonly line: string;
  readonly contract_id: Id<'contract'>;
  readonly name: string;
}

/** Somebody who left, or an asset that is gone, is billed to that day; a seat that had not begun is taken off. */
export async function endSeatsOfLeaver(work: Work, unitId: Unit): Promise<Outcome<unknown>> {
  const today = dateOf(work.now, work.book.house.zone);
  const to = plusDays(today, 1);
  const seats = await seatsOf(work, unitId, (q) => q.where((w) => void w.whereNull('s.ends_on').orWhere('s.ends_on', '>', to)));
  for (const { id, line, contract_id, name, starts_on } of seats) {
    if (starts_on > today) {
      await work.tx('contract_seat').where({ id }).delete();
      await work.tell('contract.seats-taken-off', contract_id, { names: [name] });
      continue;
    }
    const was = work.tx.raw('coalesce(ends_on::text, ?)', ['no end']);
    await work
      .tx('contract_seat')
      .where({ id })
      .update({ ends_on: to, ended_by_leaving: was, version: work.tx.raw('version + 1') });
    await work.tell('contract.seats-ended', contract_id, { line, names: [name], to });
  }
  return {};
}

/** Who is brought back has the seats again that ended when they were put away. */
export async function giveSeatsBack(work: Work, unitId: Unit): Promise<Outcome<unknown>> {
  const seats = await seatsOf(work, unitId, (q) => q.whereNotNull('s.ended_by_leaving'));
  for (const { id, line, contract_id, name } of seats) {
    const back = work.tx.raw(`nullif(ended_by_leaving, 'no end')::date`);
    const [row] = await work
      .tx('contract_seat')
      .where({ id })
      .update({ ends_on: back, ended_by_leaving: null, version: work.tx.raw('version + 1') })
      .returning('ends_on');
    await work.tell('contract.seats-ended', contract_id, { line, names: [name], to: row!.ends_on });
  }
  return {};
}

function seatsOf(work: Work, unitId: Unit, which: (q: ReturnType<Work['tx']>) => ReturnType<Work['tx']>): Promise<LeftSeat[]> {
  return work
    .tx('contract_seat as s')
    .join('contract_line as l', 'l.id', 's.line_id')
    .leftJoin('contact as k', 'k.id', 's.contact_id')
    .leftJoin('asset as a', 'a.id', 's.asset_id')
    .where((q) => void q.where({ 's.contact_id': unitId }).orWhere({ 's.asset_id': unitId }))
    .modify((q) => void which(q))
    .forUpdate('s')
    .select('s.id', 's.starts_on', 'l.name as line', 'l.contract_id', work.tx.raw('coalesce(k.name, a.number) as name'));
}
