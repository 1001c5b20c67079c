import { Big } from 'big.js';
import type { DecimalText, LocalDate } from '../../ground';
import type { UnitPrice } from '../catalogue';

/** Whose a price rule is, the one that counts first at the front. */
export const PRICE_HOMES = ['contract', 'client', 'house'] as const;
export type PriceHome = (typeof PRICE_HOMES)[number];

/** What a rule does to the price of one. Percent is off the catalogue's price, 0 to 100. */
export type PriceSet =
  | { readonly is: 'price'; readonly price: DecimalText; readonly basis: UnitPrice['basis'] }
  | { readonly is: 'percent off'; readonly percent: DecimalText }
  | { readonly is: 'never billed' };
export const PRICE_SETS = ['price', 'percent off', 'never billed'] as const;

export interface PriceRule {
  readonly id: string;
  readonly home: PriceHome;
  /** Of one item, of a category, or where both are null of everything. */
  readonly itemId: string | null;
  readonly category: string | null;
  /** From this many on, at once on one charge. */
  readonly fromQuantity: DecimalText;
  readonly from: LocalDate;
  /** The first day without it; null is for good. */
  readonly to: LocalDate | null;
  readonly sets: PriceSet;
}

export interface ToPrice {
  readonly itemId: string;
  readonly category: string;
  readonly quantity: DecimalText;
  readonly on: LocalDate;
  /** What the catalogue says of one. */
  readonly listed: UnitPrice;
}

export interface Priced {
  readonly unit: UnitPrice;
  /** The rule that says so; null is the catalogue. */
  readonly by: PriceRule | null;
  /** The rule that says it is never billed, where that is the one that counts. It has a price all the same: a person decides. */
  readonly neverBilled: PriceRule | null;
}

/**
 * What one of an item costs, by the rules of its client's contracts, of the client and of the house, else by the catalogue.
 * @returns a price to 4 places, half away from zero, on its basis. Source: docs/calculations.md, Price rules.
 */
export function priceByRules(asked: ToPrice, rules: readonly PriceRule[]): Priced {
  const fitting = rules.filter((rule) => fits(rule, asked)).sort(byWhatCountsFirst);
  const by = fitting.find((rule) => rule.sets.is !== 'never billed') ?? null;
  return {
    unit: by ? unitBy(by.sets, asked.listed) : asked.listed,
    by,
    neverBilled: fitting[0]?.sets.is === 'never billed' ? fitting[0] : null,
  };
}

function fits(rule: PriceRule, { itemId, category, quantity, on }: ToPrice): boolean {
  if (rule.itemId !== null && rule.itemId !== itemId) return false;
  if (rule.category !== null && rule.category !== category) return false;
  if (on < rule.from || (rule.to !== null && on >= rule.to)) return false;
  return new Big(quantity).abs().gte(rule.fromQuantity);
}

const narrowness = ({ itemId, category }: PriceRule) => (itemId !== null ? 0 : category !== null ? 1 : 2);

/** The nearer home, then the narrower rule, then the larger quantity, then the later start, then the smaller id. */
function byWhatCountsFirst(a: PriceRule, b: PriceRule): number {
  return (
    PRICE_HOMES.indexOf(a.home) - PRICE_HOMES.indexOf(b.home) ||
    narrowness(a) - narrowness(b) ||
    new Big(b.fromQuantity).cmp(a.fromQuantity) ||
    (a.from === b.from ? 0 : a.from < b.from ? 1 : -1) ||
    (a.id < b.id ? -1 : 1)
  );
}

function unitBy(sets: PriceSet, listed: UnitPrice): UnitPrice {
  if (sets.is === 'price') return { price: sets.price, basis: sets.basis };
  if (sets.is === 'never billed') return listed;
  return { price: new Big(listed.price).times(new Big(100).minus(sets.percent)).div(100).round(4, 1).toString(), basis: listed.basis };
}
