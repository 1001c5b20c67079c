import { Big } from 'big.js';
import { type Currency, type DecimalText, majorOf, roundToMinor } from '../../ground';

/**
 * A price once it has risen by so many percent (fallen, where that is negative), rounded to the currency's minor unit, half
 * away from zero; never below nothing. A price that counts in parts of that unit keeps to whole ones from then on.
 * @param percent with up to 4 places
 */
export function raisedPrice(price: DecimalText, percent: DecimalText, currency: Currency): DecimalText {
  const raised = new Big(price).times(new Big(100).plus(percent));
  return majorOf(roundToMinor(raised.lt(0) ? new Big(0) : raised, 100, currency)).toFixed();
}
