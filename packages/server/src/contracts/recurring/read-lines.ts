import type { RecurringLine } from '@core/contracts';
import type { Id, LocalDate } from '@core/ground';
import type { Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';
import { anchorOf } from '../cover/read-cover-terms';

/** A line as it is worked out, with what it is called and whose it is. */
export interface StoredLine extends RecurringLine {
  readonly id: Id<'contract_line'>;
  readonly name: string;
  readonly contractId: Id<'contract'>;
  readonly contract: Row<'contract', 'number' | 'name' | 'client_id' | 'division_id' | 'purchase_order'>;
}

/** The lines of agreed contracts, with their prices and who is on them: four reads, however many they are. */
export async function readLines(db: Db, contractIds: readonly string[]): Promise<StoredLine[]> {
  const contracts: Row<'contract'>[] = await db('contract').whereIn('id', contractIds);
  const lines: Row<'contract_line'>[] = await db('contract_line').whereIn('contract_id', contractIds).orderBy('position');
  const ids = lines.map((l) => l.id);
  const prices: Row<'contract_price'>[] = await db('contract_price').whereIn('line_id', ids).orderBy('from_on');
  const seats: (Row<'contract_seat'> & { readonly name: string })[] = await db('contract_seat as s')
    .leftJoin('contact as k', 'k.id', 's.contact_id')
    .leftJoin('asset as a', 'a.id', 's.asset_id')
    .whereIn('s.line_id', ids)
    .select('s.*', db.raw('coalesce(k.name, a.number) as name'))
    .orderBy([{ column: 's.starts_on' }, { column: 's.id' }]);
  return lines.map((line) => {
    const contract = contracts.find((c) => c.id === line.contract_id)!;
    return {
      id: line.id,
      name: line.name,
      contractId: line.contract_id,
      contract,
      counted: line.counted,
      from: later(line.starts_on, contract.starts_on),
      to: earlier(line.ends_on, contract.ends_on),
      schedule: { frequency: line.frequency, anchor: anchorOf(line.anchored, contract.starts_on) },
      paid: line.paid,
      leadDays: line.lead_days,
      proration: line.proration,
      minimum: line.minimum,
      maximum: line.maximum,
      prices: prices.filter((p) => p.line_id === line.id).map((p) => ({ from: p.from_on, price: plainDecimal(p.price) })),
      discounts: [],
      units: seats
        .filter((s) => s.line_id === line.id)
        .map((s) => ({ of: (s.contact_id ?? s.asset_id)!, name: s.name, from: s.starts_on, to: s.ends_on })),
    };
  });
}

const later = (a: LocalDate, b: LocalDate) => (a > b ? a : b);
const earlier = (a: LocalDate | null, b: LocalDate | null) => (a === null ? b : b === null || a < b ? a : b);
