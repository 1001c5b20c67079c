import { priceRuleRoutes, type PriceRuleWire } from '@core/goods';
import { plusDays } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import { addPriceRule, movePriceRule } from './change-price-rules';
import { type PriceRuleRow, setsOf, withItem } from './read-price-rules';
import { tryPriceRule } from './try-price-rule';

export function bindPriceRules(app: App) {
  const { currency } = app.house.house;
  return bindRoutes(app, priceRuleRoutes, {
    listPriceRules: async ({ db, query }) => ({
      currency,
      rules: (await readRules(db, { contract_id: query.contractId ?? null, client_id: query.clientId ?? null })).map(toWire),
    }),
    addPriceRule: ({ work, body }) => addPriceRule(work, body),
    tryPriceRule: ({ db, body, now }) => tryPriceRule(db, app.house, { form: body, now }),
    takePriceRuleAway: ({ work, params }) => movePriceRule(work, params.priceRuleId, 'taken-away'),
    givePriceRuleBack: ({ work, params }) => movePriceRule(work, params.priceRuleId, 'given-back'),
  });
}

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
