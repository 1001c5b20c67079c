import { catalogueRoutes, grossUnitPrice, invoicedGross, marginPercent, netUnitPrice, type ItemForm, type ItemWire } from '@core/catalogue';
import { isRefusal, refuse, type Refusal } from '@core/outcome';
import type { App } from '../app/app';
import { bindRoutes } from '../app/bind-routes';
import { changeRow } from '../app/change-row';
import type { Columns, Db } from '../app/database';
import { plainDecimal } from '../app/plain-decimal';
import type { Work } from '../app/work';

export function bindCatalogue(app: App) {
  return bindRoutes(app, catalogueRoutes, {
    listItems: async ({ db }) => ({ items: await readItems(db) }),
    getItem: async ({ db, params }) => (await readItems(db, params.itemId))[0] ?? refuse('not-found', 'There is no such catalogue item.'),
    createItem: async ({ work, body }) => {
      const taken = await numberTaken(work, body, undefined);
      if (taken) return taken;
      const [row] = await work
        .tx('catalogue_item')
        .insert({ ...columns(body), currency: app.house.house.currency })
        .returning(['id', 'version']);
      await work.tell({ subject: 'item', id: row.id, what: `added ${body.name}` });
      return row;
    },
    editItem: async ({ work, params, version, body }) => {
      const taken = await numberTaken(work, body, params.itemId);
      if (taken) return taken;
      const changed = await changeRow(work, { table: 'catalogue_item', id: params.itemId, version, set: columns(body) });
      if (!isRefusal(changed)) await work.tell({ subject: 'item', id: params.itemId, what: 'changed' });
      return changed;
    },
  });
}

async function numberTaken(work: Work, form: ItemForm, itemId: string | undefined): Promise<Refusal | undefined> {
  const other = await work
    .tx('catalogue_item')
    .where({ number: form.number })
    .modify((q) => itemId && void q.whereNot({ id: itemId }))
    .first('name');
  return other
    ? refuse('already-used', `The number ${form.number} is taken by ${other.name}.`, { number: 'a number that no other item has' })
    : undefined;
}

function columns(form: ItemForm) {
  return {
    number: form.number,
    name: form.name,
    category: form.category,
    price: form.price,
    basis: form.basis,
    cost: form.cost,
    tax_category: form.taxCategory,
    tax_percent: form.taxPercent,
  };
}

async function readItems(db: Db, id?: string): Promise<ItemWire[]> {
  const rows = await db('catalogue_item')
    .whereNull('archived_at')
    .modify((q) => id && void q.where({ id }))
    .orderBy(['category', 'name']);
  return rows.map((r: Columns) => {
    const tax = { category: r.tax_category, percent: plainDecimal(r.tax_percent) };
    const unit = { price: plainDecimal(r.price), basis: r.basis };
    const net = netUnitPrice(unit, tax);
    const cost = plainDecimal(r.cost);
    const asInvoiced = invoicedGross(unit, tax);
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
    };
  });
}
