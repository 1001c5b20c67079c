import { Big } from 'big.js';
import { CURRENCY_DECIMALS, type Currency, type DecimalText } from '../../ground';

/** By how much prices rise: percent, or as an index did from one figure to another. */
export type Rise = { readonly percent: DecimalText } | { readonly indexThen: DecimalText; readonly indexNow: DecimalText };

/** Divides with more places than any price and figure that people type can make matter. */
const Exact = Big();
Exact.DP = 40;
const HALF_AWAY = 1;

/**
 * A price once it has risen (fallen, where that is negative), rounded once, half away from zero, to the currency's minor unit
 * or to the places that it had, if these are more; never below nothing.
 */
export function raisedPrice(price: DecimalText, rise: Rise, currency: Currency): DecimalText {
  const [part, whole] = 'percent' in rise ? [new Big(100).plus(rise.percent), '100'] : [new Big(rise.indexNow), rise.indexThen];
  const places = Math.max(CURRENCY_DECIMALS[currency], price.split('.')[1]?.length ?? 0);
  const raised = new Exact(price).times(part).div(whole);
  return (raised.lt(0) ? new Big(0) : raised.round(places, HALF_AWAY)).toFixed();
}

/** "3.5 %", or "as the index from 118.2 to 121.4, 2.71 %". */
export function sayRise(rise: Rise): string {
  if ('percent' in rise) return `${rise.percent} %`;
  const percent = new Big(rise.indexNow).div(rise.indexThen).minus(1).times(100).round(2);
  return `as the index from ${rise.indexThen} to ${rise.indexNow}, ${percent.toFixed()} %`;
}
