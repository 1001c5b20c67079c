import { type PriceRule, type PriceSet } from '@core/goods';
import { type LocalDate, plusDays } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';

export type PriceRuleRow = Row<'price_rule'> & { readonly item: string | null };

export function setsOf(row: Pick<Row<'price_rule'>, 'sets' | 'price' | 'basis' | 'percent'>): PriceSet {
  if (row.sets === 'price') return { is: 'price', price: plainDecimal(row.price!), basis: row.basis };
  return row.sets === 'percent off' ? { is: 'percent off', percent: plainDecimal(row.percent!) } : { is: 'never billed' };
}

export function toRule(row: Omit<Row<'price_rule'>, 'id' | 'version' | 'archived_at'> & { readonly id: string }): PriceRule {
  return {
    id: row.id,
    home: row.contract_id ? 'contract' : row.client_id ? 'client' : 'house',
    itemId: row.item_id,
    category: row.category,
    fromQuantity: plainDecimal(row.from_quantity),
    from: row.from_on,
    to: row.to_on,
    sets: setsOf(row),
  };
}

/** The rules that can price something of a client on a day: those of the house, theirs, and of their contracts that run then. */
export async function rulesForClient(
  db: Db,
  { clientId, on }: { readonly clientId: string | null; readonly on: LocalDate },
): Promise<PriceRule[]> {
  const rows: Row<'price_rule'>[] = await db('price_rule as r')
    .leftJoin('contract as k', 'k.id', 'r.contract_id')
    .whereNull('r.archived_at')
    .where((q) => {
      void q.where((house) => void house.whereNull('r.client_id').whereNull('r.contract_id'));
      if (clientId === null) return;
      void q.orWhere('r.client_id', clientId).orWhere(
        (contract) =>
          void contract
            .where('k.client_id', clientId)
            .whereNotNull('k.agreed_at')
            .where('k.starts_on', '<=', on)
            .where((end) => void end.whereNull('k.ends_on').orWhere('k.ends_on', '>', on)),
      );
    })
    .select('r.*');
  return rows.map(toRule);
}

/** The first day without a rule, from the last that it holds. */
export const endAfter = (lastDay: LocalDate | null): LocalDate | null => lastDay && plusDays(lastDay, 1);

/** Rules with the name of their item. */
export const withItem = (db: Db) =>
  db('price_rule as r').leftJoin('catalogue_item as i', 'i.id', 'r.item_id').select('r.*', 'i.name as item');
