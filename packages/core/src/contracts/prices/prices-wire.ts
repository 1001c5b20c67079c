import {
  count,
  date,
  defineRoutes,
  id,
  nothing,
  optionalDate,
  optionalDecimal,
  optionalPositiveDecimal,
  record,
  type Wire,
} from '../../ground';

export const discountFields = {
  from: date(),
  lastDay: optionalDate(),
  /** Off the price; one of the two. */
  percent: optionalDecimal(),
  /** Off each unit, in currency. */
  money: optionalDecimal(),
};
export const discountFormSchema = record(discountFields);
export type DiscountForm = Wire<typeof discountFormSchema>;
export const raiseFormSchema = record({
  /** By how many percent all prices of the contract rise; or as an index did, from one figure to another. */
  percent: optionalDecimal(),
  indexThen: optionalPositiveDecimal(),
  indexNow: optionalPositiveDecimal(),
  from: date(),
});
export type RaiseForm = Wire<typeof raiseFormSchema>;

export const contractPriceRoutes = defineRoutes({
  addDiscount: {
    method: 'POST',
    path: '/contracts/:contractId/lines/:lineId/discounts',
    summary: 'Give a discount on a line, in percent or in money off each, from a day and perhaps to one',
    permission: 'contracts.edit',
    body: discountFormSchema,
    answer: record({ id: id('contract_discount') }),
  },
  takeDiscountAway: {
    method: 'POST',
    path: '/contracts/:contractId/discounts/:discountId/take-away',
    summary: 'Take a discount away as if it had never been given; the next run bills what that comes to',
    permission: 'contracts.edit',
    answer: nothing(),
  },
  takePriceAway: {
    method: 'POST',
    path: '/contracts/:contractId/lines/:lineId/prices/take-away',
    summary: 'Take a later price of a line away; the one before it goes on',
    permission: 'contracts.edit',
    body: record({ from: date() }),
    answer: nothing(),
  },
  raisePrices: {
    method: 'POST',
    path: '/contracts/:contractId/raise',
    summary: 'Let all prices of a contract rise from a day on, by percent or as an index did',
    permission: 'contracts.edit',
    body: raiseFormSchema,
    answer: record({ raised: count() }),
  },
});
