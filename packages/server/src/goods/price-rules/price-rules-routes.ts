import { priceRuleRoutes, type PriceRuleForm, type PriceRuleWire } from '@core/goods';
import { type Id, type Outcome, parseLocalDate, plusDays, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, type Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { Work } from '../../app/work';
import { HOUSE_STORY } from '../../house';
import { endAfter, type PriceRuleRow, setsOf } from './read-price-rules';
import { tryPriceRule } from './try-price-rule';

export function bindPriceRules(app: App) {
  const { currency } = app.house.house;
  return bindRoutes(app, priceRuleRoutes, {
    listPriceRules: async ({ db, query }) => ({
      currency,
      rules: (await readRules(db, { contract_id: query.contractId ?? null, client_id: query.clientId ?? null })).map(toWire),
    }),
    addPriceRule: ({ work, body }) => addRule(work, body),
    tryPriceRule: ({ db, body, now }) => tryPriceRule(db, app.house, { form: body, now }),
    takePriceRuleAway: ({ work, params }) => move(work, params.priceRuleId, 'taken-away'),
    givePriceRuleBack: ({ work, params }) => move(work, params.priceRuleId, 'given-back'),
  });
}

const withItem = (db: Db) => db('price_rule as r').leftJoin('catalogue_item as i', 'i.id', 'r.item_id').select('r.*', 'i.name as item');

function readRules(db: Db, home: { contract_id: string | null; client_id: string | null }): Promise<PriceRuleRow[]> {
  return withItem(db)
    .where({ 'r.contract_id': home.contract_id, 'r.client_id': home.client_id })
    .whereNull('r.archived_at')
    .orderByRaw('i.name nulls last, r.category nulls last, r.from_quantity, r.from_on') as unknown as Promise<PriceRuleRow[]>;
}

function toWire(row: PriceRuleRow): PriceRuleWire {
  return {
    id: row.id,
    version: row.version,
    itemId: row.item_id,
    item: row.item,
    category: row.category,
    fromQuantity: plainDecimal(row.from_quantity),
    from: row.from_on,
    lastDay: row.to_on && plusDays(row.to_on, -1),
    sets: setsOf(row),
  };
}

/** The columns of a rule as it was typed; what its kind does not need is not kept. */
export function columnsOf(form: PriceRuleForm) {
  return {
    contract_id: form.contractId,
    client_id: form.clientId,
    item_id: form.itemId,
    category: form.itemId ? null : form.category,
    from_quantity: form.fromQuantity,
    from_on: parseLocalDate(form.from),
    to_on: endAfter(form.lastDay ? parseLocalDate(form.lastDay) : null),
    sets: form.sets,
    basis: form.basis,
    price: form.sets === 'price' ? form.price! : null,
    percent: form.sets === 'percent off' ? form.percent! : null,
  };
}

async function addRule(work: Work, form: PriceRuleForm): Promise<Outcome<{ id: Id<'price_rule'>; version: number }>> {
  if (form.contractId && form.clientId)
    return refuse('invalid', 'A rule is of a contract or of a client.', { clientId: 'a contract or a client, not both' });
  if (form.itemId && !(await work.tx('catalogue_item').where({ id: form.itemId }).first('id')))
    return refuse('invalid', 'There is no such catalogue item.', { itemId: 'choose one of the catalogue' });
  for (const [table, id] of [['client', form.clientId] as const, ['contract', form.contractId] as const])
    if (id && !(await work.tx(table).where({ id }).first('id'))) return refuse('not-found', `There is no such ${table}.`);
  const [row] = await work.tx('price_rule').insert(columnsOf(form)).returning(['id', 'version']);
  await tell(work, row!.id, 'added');
  return row!;
}

async function move(work: Work, id: Id<'price_rule'>, to: 'taken-away' | 'given-back'): Promise<Outcome<Record<string, never>>> {
  const moved = await work
    .tx('price_rule')
    .where({ id })
    .modify((q) => void (to === 'taken-away' ? q.whereNull('archived_at') : q.whereNotNull('archived_at')))
    .update({ archived_at: to === 'taken-away' ? at(work.now) : null });
  if (!moved) return refuse('not-found', 'There is no such price rule.');
  await tell(work, id, to);
  return {};
}

/** On the story of whose it is. */
async function tell(work: Work, id: Id<'price_rule'>, did: 'added' | 'taken-away' | 'given-back'): Promise<void> {
  const row = (await withItem(work.tx).where('r.id', id).first()) as unknown as PriceRuleRow;
  const data = { what: row.item ?? row.category, sets: setsOf(row), currency: work.book.house.currency };
  if (row.contract_id) await work.tell(`contract.price-rule-${did}`, row.contract_id, data);
  else if (row.client_id) await work.tell(`client.price-rule-${did}`, row.client_id, data);
  else await work.tell(`setup.price-rule-${did}`, HOUSE_STORY, data);
}
