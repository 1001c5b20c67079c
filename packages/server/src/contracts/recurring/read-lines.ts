import type { PriceStep, RecurringLine } from '@core/contracts';
import type { Id, LocalDate } from '@core/ground';
import type { Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';

/** A stored line with the days that it is due before a period: its own, its client's or the house's. */
export type LineRow = Row<'contract_line'> & { readonly leads_by: number };

/** A line as it is stored, with its prices in order of their dates and who or what is on it, by name. */
export interface LineRows {
  readonly line: LineRow;
  readonly prices: readonly PriceStep[];
  readonly discounts: readonly Row<'contract_discount'>[];
  readonly seats: readonly SeatRow[];
}
export type SeatRow = Row<'contract_seat'> & { readonly name: string };

/** The lines of contracts: four reads, however many they are. */
export async function readLineRows(db: Db, contractIds: readonly string[]): Promise<LineRows[]> {
  const lines: LineRow[] = await db('contract_line as l')
    .join('contract as k', 'k.id', 'l.contract_id')
    .leftJoin('client_billing_terms as o', 'o.client_id', 'k.client_id')
    .joinRaw('cross join house_billing_terms h')
    .whereIn('l.contract_id', contractIds)
    .whereNull('l.taken_away_at')
    .orderBy('l.position')
    .select('l.*', db.raw('coalesce(l.lead_days, o.lead_days, h.lead_days) as leads_by'));
  const ids = lines.map((l) => l.id);
  const prices: Row<'contract_price'>[] = await db('contract_price').whereIn('line_id', ids).orderBy('from_on');
  const discounts: Row<'contract_discount'>[] = await db('contract_discount').whereIn('line_id', ids).orderBy(['from_on', 'id']);
  const seats = await readSeats(db, (q) => q.whereIn('s.line_id', ids));
  return lines.map((line) => ({
    line,
    prices: prices.filter((p) => p.line_id === line.id).map((p) => ({ from: p.from_on, price: plainDecimal(p.price), tiers: p.tiers })),
    discounts: discounts.filter((d) => d.line_id === line.id),
    seats: seats.filter((s) => s.line_id === line.id),
  }));
}

/** Who or what is on lines, in order of their names, then of their first days. */
export async function readSeats(db: Db, which: (q: ReturnType<Db>) => ReturnType<Db>): Promise<SeatRow[]> {
  return db('contract_seat as s')
    .leftJoin('contact as k', 'k.id', 's.contact_id')
    .leftJoin('asset as a', 'a.id', 's.asset_id')
    .modify((q) => void which(q))
    .select('s.*', db.raw('coalesce(k.name, a.number) as name'))
    .orderByRaw('coalesce(k.name, a.number), s.starts_on, s.id');
}

/** A line as it is worked out, with what it is called and whose it is. */
export interface StoredLine extends RecurringLine {
  readonly id: Id<'contract_line'>;
  readonly contractId: Id<'contract'>;
  readonly name: string;
  /** Whether documents name who or what is on it. */
  readonly namesOnInvoice: boolean;
}

/** The lines of contracts as they are worked out. */
export async function readLines(db: Db, contractIds: readonly string[]): Promise<StoredLine[]> {
  const contracts: Row<'contract', 'id' | 'starts_on' | 'ends_on'>[] = await db('contract')
    .whereIn('id', contractIds)
    .select('id', 'starts_on', 'ends_on');
  const rows = await readLineRows(db, contractIds);
  const readings = await readDays(
    db,
    rows.filter(({ line }) => line.counted === 'metered').map(({ line }) => line.id),
  );
  return rows.map(({ line, prices, discounts, seats }) => {
    const contract = contracts.find((c) => c.id === line.contract_id)!;
    return {
      id: line.id,
      contractId: line.contract_id,
      name: line.name,
      counted: line.counted,
      from: later(line.starts_on, contract.starts_on),
      to: earlier(line.ends_on, contract.ends_on),
      schedule: { frequency: line.frequency, anchor: line.anchor_on },
      priced: line.priced,
      unitCost: line.unit_cost === null ? null : plainDecimal(line.unit_cost),
      namesOnInvoice: line.names_on_invoice,
      readings: readings.filter((r) => r.line_id === line.id).map((r) => ({ on: r.on_date, quantity: plainDecimal(r.quantity) })),
      paid: line.paid,
      leadDays: line.leads_by,
      proration: line.proration,
      minimum: line.minimum,
      maximum: line.maximum,
      prices,
      discounts: discounts.map((d) => ({
        from: d.from_on,
        to: d.to_on,
        off: d.percent === null ? { money: plainDecimal(d.money_off!) } : { percent: plainDecimal(d.percent) },
      })),
      units: seats.map((s) => ({ of: (s.contact_id ?? s.asset_id)!, name: s.name, from: s.starts_on, to: s.ends_on })),
    };
  });
}

/** What was read of meters, by line and day. */
async function readDays(db: Db, lineIds: readonly string[]): Promise<Row<'contract_reading', 'line_id' | 'on_date' | 'quantity'>[]> {
  if (!lineIds.length) return [];
  return db('contract_reading')
    .whereIn('line_id', lineIds)
    .groupBy('line_id', 'on_date')
    .orderBy('on_date')
    .select('line_id', 'on_date', db.raw('sum(quantity) as quantity'));
}

const later = (a: LocalDate, b: LocalDate) => (a > b ? a : b);
const earlier = (a: LocalDate | null, b: LocalDate | null) => (a === null ? b : b === null || a < b ? a : b);
