import { formatUnitPrice, type Currency } from '../../ground';
import type { PriceSet } from './price-rule';

/** What a rule does, as people say it: "€80.00 without tax", "10 % off", "never billed". */
export function sayPriceSet(sets: PriceSet, currency: Currency): string {
  if (sets.is === 'price') return `${formatUnitPrice(sets.price, currency)} ${sets.basis === 'net' ? 'without' : 'with'} tax`;
  return sets.is === 'percent off' ? `${sets.percent} % off` : 'never billed';
}
