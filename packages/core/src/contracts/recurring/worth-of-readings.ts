import { Big } from 'big.js';
import { type Currency, type DecimalText, type Explanation, formatMoney, roundToMinor, step } from '../../ground';
import type { PeriodWorth } from './period-worth';
import type { Period } from './periods';
import { type PricedUnits, pricedUnits, quantityAndPrice, sayPriced } from './price-of-count';
import { priceOnDay } from './price-on-day';
import type { RecurringLine } from './recurring-line';

/**
 * What was read of a meter on some days, each reading at the price of its day, in order of days; tiers go on from one to the
 * next. Rounded once. Source: docs/calculations.md, Recurring lines.
 */
export function worthOfReadings(line: RecurringLine, days: Period | undefined, currency: Currency): PeriodWorth {
  const read = days ? line.readings.filter((r) => days.from <= r.on && r.on < days.to).sort((a, b) => (a.on < b.on ? -1 : 1)) : [];
  const all = read.reduce((sum, r) => sum.plus(r.quantity), new Big(0)).toFixed();
  const found = new Map<DecimalText, Big>();
  let already = new Big(0);
  for (const { on, quantity } of read) {
    const given = { priced: line.priced, count: quantity, already: already.toFixed(), all };
    for (const { count, price } of pricedUnits(priceOnDay(line, on), given)) found.set(price, (found.get(price) ?? new Big(0)).plus(count));
    already = already.plus(quantity);
  }
  const parts = [...found].map(([price, count]): PricedUnits => ({ count: count.toFixed(), price }));
  const amount = roundToMinor(
    parts.reduce((sum, p) => sum.plus(new Big(p.price).times(p.count)), new Big(0)),
    1,
    currency,
  );
  const why: Explanation = read.length
    ? [step(`read on ${read.length === 1 ? read[0]!.on : `${read.length} days`}: ${sayPriced(parts, currency)}`)]
    : [];
  return {
    amount,
    ...quantityAndPrice(parts, amount),
    stretches: [],
    cost: line.unitCost === null ? null : roundToMinor(new Big(line.unitCost).times(all), 1, currency),
    why: [...why, step('the period', formatMoney(amount))],
  };
}
