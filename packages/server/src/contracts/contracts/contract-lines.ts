import { type LineForm, type LineWire, overlapping, type SeatsForm } from '@core/contracts';
import {
  formatUnitPrice,
  type DecimalText,
  type Id,
  isRefusal,
  type LocalDate,
  type Outcome,
  parseLocalDate,
  plusDays,
  refuse,
} from '@core/ground';
import type { Db } from '../../app/database';
import { changeRow } from '../../app/change-row';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { lastDayOf } from './contract-read-model';

type SeatRow = Row<'contract_seat'> & { readonly name: string };

export async function readContractLines(db: Db, contractId: Id<'contract'>): Promise<LineWire[]> {
  const lines: Row<'contract_line'>[] = await db('contract_line').where({ contract_id: contractId }).orderBy('position');
  const ids = lines.map((l) => l.id);
  const prices: Row<'contract_price'>[] = await db('contract_price').whereIn('line_id', ids).orderBy('from_on');
  const seats: SeatRow[] = await db('contract_seat as s')
    .leftJoin('contact as k', 'k.id', 's.contact_id')
    .leftJoin('asset as a', 'a.id', 's.asset_id')
    .whereIn('s.line_id', ids)
    .select('s.*', db.raw('coalesce(k.name, a.number) as name'))
    .orderByRaw('coalesce(k.name, a.number), s.starts_on');
  return lines.map((line) => {
    const steps = prices.filter((p) => p.line_id === line.id).map((p) => ({ from: p.from_on, price: plainDecimal(p.price) }));
    return {
      id: line.id,
      version: line.version,
      name: line.name,
      counted: line.counted,
      price: steps[0]!.price,
      frequency: line.frequency,
      anchored: line.anchored,
      paid: line.paid,
      leadDays: line.lead_days,
      proration: line.proration,
      minimum: line.minimum,
      maximum: line.maximum,
      startsOn: line.starts_on,
      lastDay: lastDayOf(line.ends_on),
      prices: steps.slice(1),
      seats: seats
        .filter((s) => s.line_id === line.id)
        .map((s) => ({
          id: s.id,
          version: s.version,
          contactId: s.contact_id,
          assetId: s.asset_id,
          name: s.name,
          startsOn: s.starts_on,
          lastDay: lastDayOf(s.ends_on),
        })),
    };
  });
}

/** The first day without, of what lasts until a day; refused where that is before its start. */
export function endsOn(startsOn: string, lastDay: string | null): Outcome<LocalDate | null> {
  if (lastDay !== null && lastDay < startsOn)
    return refuse('invalid', `Its last day, ${lastDay}, is before its first, ${startsOn}.`, { lastDay: `${startsOn} or later` });
  return lastDay === null ? null : plusDays(parseLocalDate(lastDay), 1);
}

type Stored = Outcome<{ id: string }>;

export async function addLine(work: Work, contractId: Id<'contract'>, form: LineForm): Promise<Stored> {
  const to = endsOn(form.startsOn, form.lastDay);
  if (isRefusal(to)) return to;
  if (form.minimum !== null && form.maximum !== null && form.maximum < form.minimum)
    return refuse('invalid', 'The maximum is below the minimum.', { maximum: `${form.minimum} or more` });
  const contract = await work.tx('contract').where({ id: contractId }).first('starts_on');
  if (!contract) return refuse('not-found', 'There is no such contract.');
  const [line] = await work
    .tx('contract_line')
    .insert({
      contract_id: contractId,
      name: form.name,
      position: work.tx.raw('(select count(*) from contract_line where contract_id = ?)', [contractId]),
      counted: form.counted,
      frequency: form.frequency,
      anchored: form.anchored,
      paid: form.paid,
      lead_days: form.leadDays,
      proration: form.proration,
      minimum: form.minimum,
      maximum: form.maximum,
      starts_on: form.startsOn,
      ends_on: to,
    })
    .returning('id');
  await work.tx('contract_price').insert({ line_id: line!.id, from_on: form.startsOn, price: form.price });
  await work.tell('contract.line-added', contractId, { name: form.name });
  return line!;
}

interface OfContract {
  readonly contractId: Id<'contract'>;
  readonly lineId: Id<'contract_line'>;
}

async function lockLine(work: Work, { contractId, lineId }: OfContract): Promise<Outcome<Row<'contract_line'>>> {
  const line = await work.tx('contract_line').where({ id: lineId, contract_id: contractId }).forUpdate().first();
  return line ?? refuse('not-found', 'There is no such line on this contract.');
}

export async function setLinePrice(
  work: Work,
  { contractId, lineId }: OfContract,
  { from: typed, price }: { readonly from: string; readonly price: DecimalText },
): Promise<Stored> {
  const line = await lockLine(work, { contractId, lineId });
  if (isRefusal(line)) return line;
  const from = parseLocalDate(typed);
  if (from < line.starts_on) return refuse('invalid', `The line begins on ${line.starts_on}.`, { from: `${line.starts_on} or later` });
  await work.tx('contract_price').insert({ line_id: lineId, from_on: from, price }).onConflict(['line_id', 'from_on']).merge();
  await work.tell('contract.price-set', contractId, { line: line.name, price: formatUnitPrice(price, work.book.house.currency), from });
  return { id: lineId };
}

export async function endLine(
  work: Work,
  of: OfContract,
  { version, lastDay }: { readonly version: number; readonly lastDay: string | null },
): Promise<Outcome<{ id: string; version: number }>> {
  const line = await lockLine(work, of);
  if (isRefusal(line)) return line;
  const to = endsOn(line.starts_on, lastDay);
  if (isRefusal(to)) return to;
  const changed = await changeRow(work, { table: 'contract_line', id: of.lineId, version, set: { ends_on: to } });
  if (!isRefusal(changed)) await work.tell('contract.line-ended', of.contractId, { line: line.name, to });
  return changed;
}

/** Puts people or devices of the client on a line, all or none. */
export async function addSeats(work: Work, of: OfContract, form: SeatsForm): Promise<Outcome<{ ids: string[] }>> {
  const line = await lockLine(work, of);
  if (isRefusal(line)) return line;
  if (line.counted === 'flat') return refuse('not-possible-now', `${line.name} counts neither people nor devices.`);
  const to = endsOn(form.startsOn, form.lastDay);
  if (isRefusal(to)) return to;
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

export async function endSeat(
  work: Work,
  { contractId, seatId }: { readonly contractId: Id<'contract'>; readonly seatId: Id<'contract_seat'> },
  { version, lastDay }: { readonly version: number; readonly lastDay: string | null },
): Promise<Outcome<{ id: string; version: number }>> {
  const seat: (SeatRow & { readonly line: string }) | undefined = await work
    .tx('contract_seat as s')
    .join('contract_line as l', 'l.id', 's.line_id')
    .leftJoin('contact as k', 'k.id', 's.contact_id')
    .leftJoin('asset as a', 'a.id', 's.asset_id')
    .where({ 's.id': seatId, 'l.contract_id': contractId })
    .first('s.*', 'l.name as line', work.tx.raw('coalesce(k.name, a.number) as name'));
  if (!seat) return refuse('not-found', 'There is nobody and nothing of the kind on this contract.');
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
    return refuse('already-used', `${seat.name} is on ${seat.line} again from ${other.from}.`, { lastDay: `before ${other.from}` });
  const changed = await changeRow(work, { table: 'contract_seat', id: seatId, version, set: { ends_on: to } });
  if (!isRefusal(changed)) await work.tell('contract.seat-ended', contractId, { line: seat.line, name: seat.name, to });
  return changed;
}
