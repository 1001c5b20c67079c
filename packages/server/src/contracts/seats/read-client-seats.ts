import {
  type ClientSeatsWire,
  monthlyOf,
  priceStepOn,
  SEAT_STATES,
  type SeatKind,
  type SeatLineWire,
  type SeatRowWire,
  seatState,
  SEEN_DAYS,
} from '@core/contracts';
import { type Currency, type Id, type LocalDate, money, type Outcome, plusDays, refuse, sumMoney } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { lastDayOf } from '../contracts/contract-lines';
import { readLineRows, type SeatRow } from '../recurring/read-lines';

interface UnitRow {
  readonly id: string;
  readonly name: string;
  readonly also: string;
  readonly has_left: boolean;
  readonly was_seen: boolean;
}

/** All people or assets of a client with the lines that count them, of contracts that hold today or will. */
export async function readClientSeats(
  db: Db,
  {
    clientId,
    counted,
    today,
    currency,
  }: { readonly clientId: Id<'client'>; readonly counted: SeatKind; readonly today: LocalDate; readonly currency: Currency },
): Promise<Outcome<ClientSeatsWire>> {
  const client = await db('client').where({ id: clientId }).first('name');
  if (!client) return refuse('not-found', 'There is no such client.');
  const contracts: Row<'contract', 'id' | 'number'>[] = await db('contract')
    .where({ client_id: clientId })
    .whereNotNull('agreed_at')
    .where((q) => void q.whereNull('ends_on').orWhere('ends_on', '>', today))
    .orderBy('number')
    .select('id', 'number');
  const stored = (
    await readLineRows(
      db,
      contracts.map((c) => c.id),
    )
  ).filter(({ line }) => line.counted === counted && (line.ends_on === null || line.ends_on > today));
  const lines = stored.map(({ line, prices }): SeatLineWire => ({
    id: line.id,
    name: line.name,
    contractId: line.contract_id,
    contract: contracts.find((c) => c.id === line.contract_id)!.number,
    price: (priceStepOn(prices, today) ?? prices[0]!).price,
    frequency: line.frequency,
  }));
  const seats = new Map<string, SeatRow[]>();
  for (const { seats: on } of stored)
    for (const s of on) {
      const unit = (s.contact_id ?? s.asset_id)!;
      seats.set(unit, [...(seats.get(unit) ?? []), s]);
    }
  const units = await readUnits(db, { clientId, counted, since: plusDays(today, -SEEN_DAYS) });
  const rows = units.flatMap((unit) => rowOf(unit, { seats: seats.get(unit.id) ?? [], lines, today, currency }) ?? []);
  return {
    clientId,
    client: client.name,
    today,
    currency,
    lines,
    rows,
    figures: SEAT_STATES.map((state) => {
      const mine = rows.filter((r) => r.state === state);
      return {
        state,
        count: mine.length,
        monthly: sumMoney(
          mine.map((r) => r.monthly),
          currency,
        ),
      };
    }),
  };
}

function rowOf(
  unit: UnitRow,
  {
    seats,
    lines,
    today,
    currency,
  }: {
    readonly seats: readonly SeatRow[];
    readonly lines: readonly SeatLineWire[];
    readonly today: LocalDate;
    readonly currency: Currency;
  },
): SeatRowWire | undefined {
  const on = seats.filter((s) => s.starts_on <= today && (s.ends_on === null || s.ends_on > today));
  const isOn = on.length > 0 || seats.some((s) => s.ends_on === null);
  const state = seatState({ isOn, hasLeft: unit.has_left, wasSeen: unit.was_seen });
  if (!state || (state === 'on no line' && !lines.length)) return undefined;
  const prices = on.map((s) => lines.find((l) => l.id === s.line_id)!);
  return {
    unitId: unit.id,
    name: unit.name,
    also: unit.also,
    state,
    seats: seats.map((s) => ({ seatId: s.id, lineId: s.line_id, startsOn: s.starts_on, lastDay: lastDayOf(s.ends_on) })),
    monthly: prices.length ? monthlyOf(prices, currency) : money(0, currency),
  };
}

async function readUnits(
  db: Db,
  { clientId, counted, since }: { readonly clientId: Id<'client'>; readonly counted: SeatKind; readonly since: LocalDate },
): Promise<UnitRow[]> {
  if (counted === 'asset')
    return db('asset as a')
      .where({ client_id: clientId })
      .orderBy('a.number')
      .select('a.id', 'a.number as name', 'a.name as also', db.raw('a.archived_at is not null as has_left'), db.raw('true as was_seen'));
  return db('contact as k')
    .where({ client_id: clientId, placeholder: false })
    .orderByRaw('lower(k.name), k.id')
    .select(
      'k.id',
      'k.name',
      'k.email as also',
      db.raw('k.archived_at is not null as has_left'),
      db.raw(
        `exists (select from asset a where a.contact_id = k.id and a.archived_at is null)
          or exists (select from ticket t where t.contact_id = k.id and t.received_at >= ?) as was_seen`,
        [since],
      ),
    );
}

/** What a person or an asset is on today, and from then on. */
export async function readUnitSeats(
  db: Db,
  { unitId, today, currency }: { readonly unitId: string; readonly today: LocalDate; readonly currency: Currency },
) {
  const rows: (SeatRow & Row<'contract', 'number'> & { readonly contract_id: Id<'contract'> })[] = await db('contract_seat as s')
    .join('contract_line as l', 'l.id', 's.line_id')
    .join('contract as c', 'c.id', 'l.contract_id')
    .whereNotNull('c.agreed_at')
    .whereNull('l.taken_away_at')
    .where((q) => void q.where({ 's.contact_id': unitId }).orWhere({ 's.asset_id': unitId }))
    .where((q) => void q.whereNull('s.ends_on').orWhere('s.ends_on', '>', today))
    .orderBy(['c.number', 'l.position', 's.starts_on'])
    .select('s.*', 'c.number', 'l.contract_id');
  const lines = await readLineRows(db, [...new Set(rows.map((r) => r.contract_id))]);
  return {
    currency,
    seats: rows.map((r) => {
      const { line, prices } = lines.find((l) => l.line.id === r.line_id)!;
      return {
        contractId: r.contract_id,
        contract: r.number,
        line: line.name,
        startsOn: r.starts_on,
        lastDay: lastDayOf(r.ends_on),
        price: (priceStepOn(prices, today) ?? prices[0]!).price,
        frequency: line.frequency,
      };
    }),
  };
}
