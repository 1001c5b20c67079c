import { Big } from 'big.js';
import { type Currency, type DecimalText, type Money, roundToMinor } from '../../ground';
import { type LineFrequency, MONTHS_OF } from './periods';

/** What prices of periods come to in a month, together, rounded once; what is billed once adds nothing. @param prices net, in major units, each for one period */
export function monthlyOf(
  prices: readonly { readonly price: DecimalText; readonly frequency: LineFrequency }[],
  currency: Currency,
): Money {
  // Every frequency divides a year.
  const year = prices.reduce(
    (sum, { price, frequency }) => (frequency === 'once' ? sum : sum.plus(new Big(price).times(12 / MONTHS_OF[frequency]))),
    new Big(0),
  );
  return roundToMinor(year, 12, currency);
}
