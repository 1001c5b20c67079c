import { catalogueRoutes, type ItemForm } from '@core/goods';
import { changesOf, type Id, isRefusal, type Refusal, refuse } from '@core/ground';
import { plainDecimal } from '../../app/plain-decimal';
import { readStory } from '../../app/read-story';
import type { App } from '../../app/app';
import { archiveRow } from '../../app/archive-row';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import { listItems, readItem } from './catalogue-read-model';

export function bindCatalogue(app: App) {
  return bindRoutes(app, catalogueRoutes, {
    listItems: ({ db, query }) => listItems(db, query),
    listItemCategories: async ({ db }) => ({
      categories: await db('catalogue_item').whereNull('archived_at').distinct('category').orderBy('category').pluck('category'),
    }),
    getItemStory: async ({ db, params, query }) => ({
      story: await readStory(db, { subject: 'item', id: params.itemId, before: query.before }),
    }),
    getItem: ({ db, params }) => readItem(db, params.itemId),
    createItem: async ({ work, body }) => {
      const taken = await numberTaken(work, body, undefined);
      if (taken) return taken;
      const [row] = await work
        .tx('catalogue_item')
        .insert({ ...columns(body), currency: app.house.house.currency })
        .returning(['id', 'version']);
      await work.tell('item.added', row!.id, { name: body.name });
      return row!;
    },
    editItem: async ({ work, params, version, body }) => {
      const taken = await numberTaken(work, body, params.itemId);
      if (taken) return taken;
      const item = await work.tx('catalogue_item').where({ id: params.itemId }).first();
      if (!item) return refuse('not-found', 'There is no such item.');
      const changed = await changeRow(work, { table: 'catalogue_item', id: params.itemId, version, set: columns(body) });
      if (isRefusal(changed)) return changed;
      const { cost, ...changes } = changesOf(plainly(item), plainly(columns(body)));
      await work.tell('item.changed', params.itemId, { changes, costChanged: cost !== undefined });
      return changed;
    },
    archiveItem: ({ work, params, version, body }) =>
      archiveRow(work, { table: 'catalogue_item', subject: 'item', id: params.itemId, version, archived: body.archived }),
  });
}

async function numberTaken(work: Work, form: ItemForm, itemId: Id<'catalogue_item'> | undefined): Promise<Refusal | undefined> {
  const other = await work
    .tx('catalogue_item')
    .where({ number: form.number })
    .modify((q) => itemId && void q.whereNot({ id: itemId }))
    .first('name');
  return other
    ? refuse('already-used', `The number ${form.number} is taken by ${other.name}.`, { number: 'a number that no other item has' })
    : undefined;
}

type Figures = Readonly<Record<'price' | 'cost' | 'tax_percent', string>>;
function plainly<T extends Figures>(row: T): T {
  return { ...row, price: plainDecimal(row.price), cost: plainDecimal(row.cost), tax_percent: plainDecimal(row.tax_percent) };
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
