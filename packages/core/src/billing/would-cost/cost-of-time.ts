import { type Currency, type DecimalText, type Money, roundToMinor } from '../../ground';
import { Big } from 'big.js';

/** What minutes of somebody cost the provider, rounded once. @param rate currency an hour */
export function costOfTime(minutes: number, rate: DecimalText, currency: Currency): Money {
  return roundToMinor(new Big(rate).times(minutes), 60, currency);
}
