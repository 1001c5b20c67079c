import {
  amount,
  count,
  currency,
  date,
  decimal,
  defineRoutes,
  done,
  id,
  list,
  nothing,
  oneOf,
  optionalDate,
  optionalDecimal,
  optionalId,
  optionalText,
  positiveDecimal,
  record,
  shape,
  text,
  type Wire,
} from '../../ground';
import { PRICE_SETS, type PriceSet } from './price-rule';

const zeroTo100 = optionalDecimal().test('percent', 'a percentage from 0 to 100', (v) => !v || !(Number(v) < 0 || Number(v) > 100));
const notBelowZero = optionalDecimal().test('price', 'zero or more', (v) => !v || !(Number(v) < 0));

/** Whose it is: a contract's, a client's, or with neither the house's. */
const home = { contractId: optionalId('contract'), clientId: optionalId('client') };
export const priceRuleFormSchema = record({
  ...home,
  itemId: optionalId('catalogue_item'),
  category: optionalText(60).when('itemId', {
    is: (itemId: string | null) => Boolean(itemId),
    then: (s) => s.oneOf([null], 'an item or a category'),
  }),
  fromQuantity: positiveDecimal(),
  from: date(),
  /** The last day that it holds. */
  lastDay: optionalDate().when('from', ([from], s) => s.test('after', 'not before its first day', (day) => !day || day >= from)),
  sets: oneOf(PRICE_SETS),
  price: notBelowZero.when('sets', { is: 'price', then: (s) => s.required('say what one costs') }),
  basis: oneOf(['net', 'gross']),
  percent: zeroTo100.when('sets', { is: 'percent off', then: (s) => s.required('say how many percent') }),
});
export type PriceRuleForm = Wire<typeof priceRuleFormSchema>;

export const priceRuleSchema = record({
  id: id('price_rule'),
  version: count(),
  itemId: optionalId('catalogue_item'),
  item: optionalText(160),
  category: optionalText(60),
  fromQuantity: decimal(),
  from: date(),
  lastDay: optionalDate(),
  sets: shape<PriceSet>(),
});
export type PriceRuleWire = Wire<typeof priceRuleSchema>;

export const priceRulesFilterSchema = record({ contractId: id('contract').optional(), clientId: id('client').optional() });
export type PriceRulesFilter = Wire<typeof priceRulesFilterSchema>;

/** The most charges that a trial names; its sums are over all. */
export const MOST_TRIED = 20;
export const TRIED_DAYS = 90;

export const priceRuleRoutes = defineRoutes({
  listPriceRules: {
    method: 'GET',
    path: '/price-rules',
    summary: 'The price rules of a contract, of a client, or of the house',
    permission: 'catalogue.read',
    query: priceRulesFilterSchema,
    answer: record({ currency: currency(), rules: list(priceRuleSchema) }),
  },
  addPriceRule: {
    method: 'POST',
    path: '/price-rules',
    summary: 'Add a price rule; charges that are made from now on follow it',
    permission: 'catalogue.edit',
    body: priceRuleFormSchema,
    answer: done(),
  },
  tryPriceRule: {
    method: 'POST',
    path: '/price-rules/trial',
    summary: 'What a rule would have done to the goods charged in the last 90 days, before it is saved',
    permission: 'charges.read',
    body: priceRuleFormSchema,
    answer: record({
      charges: count(),
      differ: count(),
      was: amount(),
      wouldBe: amount(),
      rows: list(record({ on: date(), client: text(), description: text(500), was: amount(), wouldBe: amount() })),
    }),
  },
  takePriceRuleAway: {
    method: 'DELETE',
    path: '/price-rules/:priceRuleId',
    summary: 'Take a price rule away',
    permission: 'catalogue.edit',
    answer: nothing(),
  },
  givePriceRuleBack: {
    method: 'POST',
    path: '/price-rules/:priceRuleId/return',
    summary: 'Give a price rule back that was taken away',
    permission: 'catalogue.edit',
    answer: nothing(),
  },
});
