import { grossUnitPrice, invoicedGross, marginPercent, netUnitPrice, type ItemFilter, type ItemRowWire, type ItemWire } from '@core/goods';
import { type Id, isRefusal, type Outcome, type Page, refuse } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { containing, keysetPage, type Sort } from '../../app/keyset-page';
import { plainDecimal } from '../../app/plain-decimal';
import { readStory } from '../../app/read-story';

const SORTS: Readonly<Record<string, Sort>> = {
  name: { by: 'i.name', type: 'text' },
  number: { by: 'i.number', type: 'text' },
  category: { by: 'i.category', type: 'text' },
  price: { by: 'i.price', type: 'numeric' },
};

export async function listItems(db: Db, filter: ItemFilter): Promise<Outcome<Page<ItemRowWire>>> {
  const matching = () =>
    db('catalogue_item as i').modify((q) => {
      void q.whereRaw(`i.archived_at is ${filter.archived ? 'not ' : ''}null`);
      if (filter.category) void q.where('i.category', filter.category);
      if (filter.q) void q.whereRaw(`(i.number || ' ' || i.name || ' ' || i.category) ilike ?`, [containing(filter.q)]);
    });
  const page = await keysetPage<Row<'catalogue_item'>>(db, { matching, id: 'i.id', sorts: SORTS, select: (q) => q.select('i.*') }, filter);
  return isRefusal(page) ? page : { ...page, rows: page.rows.map(rowWire) };
}

export async function readItem(db: Db, itemId: Id<'catalogue_item'>): Promise<Outcome<ItemWire>> {
  const row = await db('catalogue_item').where({ id: itemId }).first();
  if (!row) return refuse('not-found', 'There is no such catalogue item.');
  return { ...rowWire(row), story: await readStory(db, { subject: 'item', id: itemId }) };
}

function rowWire(
  r: Row<
    'catalogue_item',
    | 'tax_category'
    | 'tax_percent'
    | 'price'
    | 'basis'
    | 'cost'
    | 'currency'
    | 'id'
    | 'version'
    | 'number'
    | 'name'
    | 'category'
    | 'archived_at'
  >,
): ItemRowWire {
  const tax = { category: r.tax_category, percent: plainDecimal(r.tax_percent) };
  const unit = { price: plainDecimal(r.price), basis: r.basis };
  const net = netUnitPrice(unit, tax);
  const cost = plainDecimal(r.cost);
  const asInvoiced = invoicedGross(unit, tax, r.currency);
  return {
    id: r.id,
    version: r.version,
    number: r.number,
    name: r.name,
    category: r.category,
    price: unit.price,
    basis: r.basis,
    cost,
    taxCategory: r.tax_category,
    taxPercent: tax.percent,
    currency: r.currency,
    netPrice: net,
    grossPrice: grossUnitPrice(unit, tax),
    marginPercent: marginPercent(net, cost) ?? null,
    invoicedGross: asInvoiced.gross,
    asTyped: asInvoiced.asTyped,
    archived: r.archived_at !== null,
  };
}
