import { MOST_OF_CONTRACT, overlapping, type SeatsForm } from '@core/contracts';
import { type Id, isRefusal, type LocalDate, type Outcome, parseLocalDate, plusDays, refuse } from '@core/ground';
import { countOf } from '../../app/database';
import { changeRow } from '../../app/change-row';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { readSeats, type SeatRow } from '../recurring/read-lines';
import { endsOn, lockLine, type OfContract } from './contract-lines';

/** Puts people or assets of the client on a line, all or none. */
export async function addSeats(work: Work, of: OfContract, form: SeatsForm): Promise<Outcome<{ ids: string[] }>> {
  const line = await lockLine(work, of);
  if (isRefusal(line)) return line;
  if (line.counted === 'flat') return refuse('not-possible-now', `${line.name} counts neither people nor devices.`);
  const to = endsOn(form.startsOn, form.lastDay);
  if (isRefusal(to)) return to;
  const there = await countOf(work.tx('contract_seat').where({ line_id: of.lineId }));
  if (there + form.unitIds.length > MOST_OF_CONTRACT.seats)
    return refuse('not-possible-now', `A line has ${MOST_OF_CONTRACT.seats} seats at the most, with those of the past.`);
  const from = parseLocalDate(form.startsOn);
  const isSeat = line.counted === 'seat';
  const column = isSeat ? 'contact_id' : 'asset_id';
  const unitIds = [...new Set(form.unitIds)];
  const named = await readUnits(work, { isSeat, unitIds, contractId: of.contractId });
  const stranger = unitIds.find((id) => !named.has(id));
  if (stranger) return refuse('invalid', `There is no such ${isSeat ? 'contact' : 'asset'} of this client.`, { unitIds: 'of this client' });
  const stands: Row<'contract_seat'>[] = await work.tx('contract_seat').where({ line_id: of.lineId }).whereIn(column, unitIds);
  for (const id of unitIds) {
    const mine = stands.filter((s) => s[column] === id).map((s) => ({ from: s.starts_on, to: s.ends_on }));
    const other = overlapping(mine, { from, to });
    if (other)
      return refuse('already-used', `${named.get(id)} is on ${line.name} already from ${other.from}${until(other.to)}.`, {
        startsOn: other.to === null ? 'after they have left' : `${other.to} or later`,
      });
  }
  const rows = await work
    .tx('contract_seat')
    .insert(unitIds.map((id) => ({ line_id: of.lineId, [column]: id, starts_on: from, ends_on: to })))
    .returning('id');
  const ids = rows.map((r) => r.id);
  const names = unitIds.map((id) => named.get(id)!);
  await work.tell('contract.seats-added', of.contractId, { line: line.name, names, from, to, seatIds: ids });
  return { ids };
}

const until = (to: LocalDate | null) => (to === null ? '' : ` until ${plusDays(to, -1)}`);

async function readUnits(
  work: Work,
  { isSeat, unitIds, contractId }: { readonly isSeat: boolean; readonly unitIds: readonly string[]; readonly contractId: Id<'contract'> },
): Promise<ReadonlyMap<string, string>> {
  const contract = (await work.tx('contract').where({ id: contractId }).first('client_id'))!;
  const rows: { id: string; name: string }[] = isSeat
    ? await work.tx('contact').where({ client_id: contract.client_id }).whereIn('id', unitIds).select('id', 'name')
    : await work.tx('asset').where({ client_id: contract.client_id }).whereIn('id', unitIds).select('id', 'number as name');
  return new Map(rows.map((r) => [r.id, r.name]));
}

/** Says the last day of somebody or something on a line; null lets it stay. */
export async function endSeat(
  work: Work,
  { contractId, seatId }: { readonly contractId: Id<'contract'>; readonly seatId: Id<'contract_seat'> },
  { version, lastDay }: { readonly version: number; readonly lastDay: string | null },
): Promise<Outcome<{ id: string; version: number }>> {
  const [seat] = await seatsOf(work, contractId, [seatId]);
  if (!seat) return refuse('not-found', NOBODY);
  const line = await lockLine(work, { contractId, lineId: seat.line_id });
  if (isRefusal(line)) return line;
  const to = endsOn(seat.starts_on, lastDay);
  if (isRefusal(to)) return to;
  const others: Row<'contract_seat'>[] = await work
    .tx('contract_seat')
    .where({ line_id: seat.line_id, contact_id: seat.contact_id, asset_id: seat.asset_id })
    .whereNot({ id: seatId });
  const other = overlapping(
    others.map((o) => ({ from: o.starts_on, to: o.ends_on })),
    { from: seat.starts_on, to },
  );
  if (other)
    return refuse('already-used', `${seat.name} is on ${line.name} again from ${other.from}.`, { lastDay: `before ${other.from}` });
  const changed = await changeRow(work, { table: 'contract_seat', id: seatId, version, set: { ends_on: to, ended_by_leaving: null } });
  if (!isRefusal(changed)) await work.tell('contract.seat-ended', contractId, { line: line.name, name: seat.name, to });
  return changed;
}
const NOBODY = 'There is nobody and nothing of the kind on this contract.';

/** Takes some off as if they had never been on their line, all or none. */
export async function takeOffSeats(
  work: Work,
  contractId: Id<'contract'>,
  seatIds: readonly Id<'contract_seat'>[],
): Promise<Outcome<{ takenOff: number }>> {
  const ids = [...new Set(seatIds)];
  const seats = await seatsOf(work, contractId, ids);
  if (seats.length < ids.length) return refuse('not-found', NOBODY);
  await work.tx('contract_seat').whereIn('id', ids).delete();
  await work.tell('contract.seats-taken-off', contractId, { names: seats.map((s) => s.name) });
  return { takenOff: seats.length };
}

function seatsOf(work: Work, contractId: Id<'contract'>, ids: readonly string[]): Promise<SeatRow[]> {
  return readSeats(work.tx, (q) =>
    q.join('contract_line as l', 'l.id', 's.line_id').where({ 'l.contract_id': contractId }).whereIn('s.id', ids),
  );
}
