import { Big } from 'big.js';
import type { DecimalText, LocalDate } from '../../ground';
import type { Discount, PriceStep, RecurringLine } from './recurring-line';

/** The last step by a day; undefined before the first. @param prices in order of their dates */
export function priceStepOn<Step extends Pick<PriceStep, 'from'>>(prices: readonly Step[], day: LocalDate): Step | undefined {
  return prices.findLast((p) => p.from <= day);
}

/** The prices of units on a day: of its step, each less discounts; percents are added, then money is taken off, never below zero. */
export function priceOnDay({ prices, discounts }: RecurringLine, day: LocalDate): Pick<PriceStep, 'price' | 'tiers'> {
  const { price, tiers } = priceStepOn(prices, day) ?? { price: '0', tiers: [] };
  const holding = discounts.filter((d) => d.from <= day && (d.to === null || day < d.to));
  const less = (full: DecimalText) => (holding.length ? lessDiscounts(full, holding) : new Big(full).toFixed());
  return { price: less(price), tiers: tiers.map((t) => ({ above: t.above, price: less(t.price) })) };
}

function lessDiscounts(price: DecimalText, holding: readonly Discount[]): DecimalText {
  const sum = (of: (d: Discount) => DecimalText | undefined) => holding.reduce((total, d) => total.plus(of(d) ?? 0), new Big(0));
  const percent = sum((d) => ('percent' in d.off ? d.off.percent : undefined));
  const off = sum((d) => ('money' in d.off ? d.off.money : undefined));
  const paid = new Big(price).times(new Big(100).minus(percent)).div(100).minus(off);
  return paid.lt(0) ? '0' : paid.toFixed();
}
