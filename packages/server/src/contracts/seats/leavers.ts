import { overlapping } from '@core/contracts';
import { dateOf, type Id, type LocalDate, type Outcome, parseLocalDate, plusDays } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { readSeats, type SeatRow } from '../recurring/read-lines';

type Unit = Id<'contact'> | Id<'asset'>;
type LineOf = Row<'contract_line', 'id' | 'name' | 'contract_id'>;
const NO_END = 'no end';

/** Somebody who left, or an asset that is gone, is billed to that day; a seat that had not begun is kept aside. */
export async function endSeatsOfLeaver(work: Work, unitId: Unit): Promise<Outcome<unknown>> {
  const today = dateOf(work.now, work.book.house.zone);
  const to = plusDays(today, 1);
  const seats = (await seatsOf(work, unitId)).filter((s) => s.ends_on === null || s.ends_on > to);
  const lines = await linesOf(work, seats);
  for (const seat of seats) {
    const { id, line_id, contact_id, asset_id, starts_on, ends_on, name } = seat;
    const { contract_id, name: line } = lines.get(line_id)!;
    if (starts_on > today) {
      await work.tx('seat_of_leaver').insert({ line_id, contact_id, asset_id, starts_on, ends_on });
      await work.tx('contract_seat').where({ id }).delete();
      await work.tell('contract.seats-taken-off', contract_id, { names: [name] });
    } else {
      await setEnd(work, id, { to, endedByLeaving: ends_on ?? NO_END });
      await work.tell('contract.seats-ended', contract_id, { line, names: [name], to });
    }
  }
  return {};
}

/** Who is brought back has the seats again that ended when they were put away, but for days on which they have another by now. */
export async function giveSeatsBack(work: Work, unitId: Unit): Promise<Outcome<unknown>> {
  const seats = await seatsOf(work, unitId);
  const waiting: Row<'seat_of_leaver'>[] = await work.tx('seat_of_leaver').where(ofUnit(unitId)).orderBy('starts_on');
  const lines = await linesOf(work, [...seats, ...waiting]);
  for (const { id, line_id, starts_on, ended_by_leaving: was, name } of seats) {
    if (was === null) continue;
    const to = was === NO_END ? null : parseLocalDate(was);
    if (isTaken(await seatsOf(work, unitId), { id, line_id, from: starts_on, to })) continue;
    await setEnd(work, id, { to, endedByLeaving: null });
    const { contract_id, name: line } = lines.get(line_id)!;
    await work.tell('contract.seats-ended', contract_id, { line, names: [name], to });
  }
  for (const seat of waiting) {
    const { line_id, starts_on: from, ends_on: to } = seat;
    if (isTaken(await seatsOf(work, unitId), { id: undefined, line_id, from, to })) continue;
    const [row] = await work.tx('contract_seat').insert(seat).returning('id');
    const { contract_id, name: line } = lines.get(line_id)!;
    const names = (await readSeats(work.tx, (q) => q.where({ 's.id': row!.id }))).map((s) => s.name);
    await work.tell('contract.seats-added', contract_id, { line, names, from, to, seatIds: [row!.id] });
  }
  await work.tx('seat_of_leaver').where(ofUnit(unitId)).delete();
  return {};
}

/** Whether somebody is on a line already on one of some days. */
function isTaken(
  seats: readonly SeatRow[],
  {
    id,
    line_id,
    from,
    to,
  }: { readonly id: string | undefined; readonly line_id: string; readonly from: LocalDate; readonly to: LocalDate | null },
): boolean {
  const others = seats.filter((s) => s.line_id === line_id && s.id !== id).map((s) => ({ from: s.starts_on, to: s.ends_on }));
  return overlapping(others, { from, to }) !== undefined;
}

async function setEnd(
  work: Work,
  id: string,
  { to, endedByLeaving }: { readonly to: LocalDate | null; readonly endedByLeaving: string | null },
): Promise<void> {
  const set = { ends_on: to, ended_by_leaving: endedByLeaving, version: work.tx.raw('version + 1') };
  await work.tx('contract_seat').where({ id }).update(set);
}

const ofUnit = (unitId: Unit) => (q: ReturnType<Work['tx']>) => void q.where({ contact_id: unitId }).orWhere({ asset_id: unitId });

function seatsOf(work: Work, unitId: Unit): Promise<SeatRow[]> {
  return readSeats(work.tx, (q) => q.where((w) => void w.where({ 's.contact_id': unitId }).orWhere({ 's.asset_id': unitId })));
}

async function linesOf(work: Work, seats: readonly { readonly line_id: string }[]): Promise<ReadonlyMap<string, LineOf>> {
  const ids = [...new Set(seats.map((s) => s.line_id))];
  const lines: LineOf[] = ids.length
    ? await work.tx('contract_line').whereIn('id', ids).orderBy('id').forUpdate().select('id', 'name', 'contract_id')
    : [];
  return new Map(lines.map((l) => [l.id, l]));
}
