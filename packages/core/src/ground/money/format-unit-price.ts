import { Big } from 'big.js';
import { CURRENCY_SIGNS } from './format-money';
import { CURRENCY_DECIMALS, type Currency, type DecimalText } from './money';

/** A unit price or rate as people read it, with the currency's places at least and 4 at most: "€8.10", "€16.1789". */
export function formatUnitPrice(price: DecimalText, currency: Currency): string {
  const value = new Big(price);
  const places = Math.max(CURRENCY_DECIMALS[currency], (value.toFixed().split('.')[1] ?? '').length);
  const [whole = '0', rest] = value.abs().toFixed(places).split('.');
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, ',');
  return `${value.lt(0) ? '−' : ''}${CURRENCY_SIGNS[currency]}${grouped}${rest ? `.${rest}` : ''}`;
}
