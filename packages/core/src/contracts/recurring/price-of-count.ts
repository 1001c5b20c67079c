import { Big } from 'big.js';
import { type Currency, type DecimalText, formatUnitPrice, majorOf, type Money } from '../../ground';
import type { Priced, PriceStep } from './recurring-line';

/** So many units at one price each. */
export interface PricedUnits {
  readonly count: DecimalText;
  readonly price: DecimalText;
}

/**
 * Units by the price that each has. Of tiers, those between two bounds have the price of the lower; of a volume, all have the
 * price that the number of all reaches. Source: docs/calculations.md, Recurring lines.
 * @param already how many of the period come before these
 * @param all how many the period has
 */
export function pricedUnits(
  { price, tiers }: Pick<PriceStep, 'price' | 'tiers'>,
  {
    priced,
    count,
    already = '0',
    all = count,
  }: { readonly priced: Priced; readonly count: DecimalText; readonly already?: DecimalText; readonly all?: DecimalText },
): readonly PricedUnits[] {
  if (priced === 'one price' || tiers.length === 0) return [{ count, price }];
  if (priced === 'volume') return [{ count, price: tiers.findLast((t) => new Big(all).gt(t.above))?.price ?? price }];
  const [from, to] = [new Big(already), new Big(already).plus(count)];
  const [low, high] = from.lte(to) ? [from, to] : [to, from];
  const found = [{ above: 0, price }, ...tiers].flatMap((tier, n): PricedUnits[] => {
    const next = tiers[n];
    // What lies below nothing has the first price.
    const start = n === 0 || low.gt(tier.above) ? low : new Big(tier.above);
    const end = next && high.gt(next.above) ? new Big(next.above) : high;
    const units = end.minus(start);
    if (units.lte(0)) return [];
    return [{ count: (from.lte(to) ? units : units.times(-1)).toFixed(), price: tier.price }];
  });
  return found.length ? found : [{ count, price }];
}

/** The places of a unit price on a document. */
const PLACES = 4;
const places = (price: DecimalText) => (price.split('.')[1] ?? '').length;

/** As a line of a document says it: so many at a price, where all have one that it can say; else one piece at the amount. */
export function quantityAndPrice(
  parts: readonly PricedUnits[],
  amount: Money,
): { readonly quantity: DecimalText; readonly price: DecimalText } {
  const [only] = parts;
  return only && parts.length === 1 && places(only.price) <= PLACES && amount.minor >= 0
    ? { quantity: only.count, price: only.price }
    : { quantity: '1', price: majorOf(amount).toFixed() };
}

/** "10 at €5.00, 2 at €4.00". */
export function sayPriced(parts: readonly PricedUnits[], currency: Currency): string {
  return parts.map((p) => `${p.count} at ${formatUnitPrice(p.price, currency)}`).join(', ');
}
