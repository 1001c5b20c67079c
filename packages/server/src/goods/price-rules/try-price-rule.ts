import { MOST_TRIED, netUnitPrice, priceByRules, type PriceRule, type PriceRuleForm, TRIED_DAYS } from '@core/goods';
import { chargeAmount } from '@core/billing';
import { dateOf, type Instant, type LocalDate, money, type Money, plusDays, sumMoney } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import type { HouseBook } from '../../house';
import { columnsOf } from './change-price-rules';
import { rulesForClient, toRule } from './read-price-rules';

type Tried = Row<'charge', 'client_id' | 'on_date' | 'description' | 'quantity' | 'currency' | 'net_minor' | 'unit'> &
  Row<'catalogue_item', 'category' | 'price' | 'basis' | 'tax_category' | 'tax_percent'> & {
    readonly item_id: string;
    readonly client: string;
  };

/** After every id: of equal rules the one that is there counts. */
const NOT_STORED = 'ffffffff';

interface Trial {
  readonly charges: number;
  readonly differ: number;
  readonly was: Money;
  readonly wouldBe: Money;
  readonly rows: { on: LocalDate; client: string; description: string; was: Money; wouldBe: Money }[];
}

/**
 * What a rule that is not saved yet would have done to the goods that were charged lately, had it held on each of their days.
 * What was charged is beside it as it stands, whatever was adjusted; nothing is written.
 */
export async function tryPriceRule(
  db: Db,
  book: HouseBook,
  { form, now }: { readonly form: PriceRuleForm; readonly now: Instant },
): Promise<Trial> {
  const { zone, currency } = book.house;
  const today = dateOf(now, zone);
  const since = plusDays(today, -TRIED_DAYS);
  const tried: PriceRule = {
    ...toRule({ ...columnsOf(form), id: NOT_STORED }),
    from: since,
    to: null,
  };
  const clientId = form.contractId
    ? (await db('contract').where({ id: form.contractId }).first('client_id'))?.client_id
    : (form.clientId ?? undefined);
  const rows: Tried[] = await db('charge as ch')
    .join('catalogue_item as i', 'i.id', 'ch.item_id')
    .join('client as c', 'c.id', 'ch.client_id')
    .whereBetween('ch.on_date', [since, today])
    .whereNotIn('ch.state', ['waived', 'withdrawn'])
    .modify((q) => clientId && void q.where('ch.client_id', clientId))
    .modify((q) => form.itemId && void q.where('ch.item_id', form.itemId))
    .modify((q) => form.category && !form.itemId && void q.where('i.category', form.category))
    .orderBy('ch.on_date')
    .select('ch.*', 'i.category', 'i.price', 'i.basis', 'i.tax_category', 'i.tax_percent', 'c.name as client');
  const known = new Map<string, PriceRule[]>();
  const compared: Trial['rows'] = [];
  for (const row of rows) {
    const key = `${row.client_id} ${row.on_date}`;
    if (!known.has(key)) known.set(key, await rulesForClient(db, { clientId: row.client_id, on: row.on_date }));
    const wouldBe = amountOf(row, [...known.get(key)!, tried]);
    compared.push({ on: row.on_date, client: row.client, description: row.description, was: money(row.net_minor, row.currency), wouldBe });
  }
  const differ = compared.filter((c) => c.was.minor !== c.wouldBe.minor);
  const sum = (of: 'was' | 'wouldBe') =>
    sumMoney(
      differ.map((c) => c[of]),
      currency,
    );
  return {
    charges: compared.length,
    differ: differ.length,
    was: sum('was'),
    wouldBe: sum('wouldBe'),
    rows: differ.slice(-MOST_TRIED).reverse(),
  };
}

function amountOf(row: Tried, rules: readonly PriceRule[]): Money {
  const quantity = plainDecimal(row.quantity);
  const { unit, neverBilled } = priceByRules(
    {
      itemId: row.item_id,
      category: row.category,
      quantity,
      on: row.on_date,
      listed: { price: plainDecimal(row.price), basis: row.basis },
    },
    rules,
  );
  if (neverBilled) return money(0, row.currency);
  const unitPrice = netUnitPrice(unit, { category: row.tax_category, percent: plainDecimal(row.tax_percent) });
  return chargeAmount({ quantity, unit: row.unit, unitPrice, currency: row.currency }).net;
}
