import { Big } from 'big.js';
import { CURRENCY_DECIMALS, type Currency, type DecimalText } from '../../ground';

export const TAX_CATEGORIES = ['S', 'Z', 'E'] as const;
/** UNCL 5305 as EN 16931 uses it: S standard or reduced rate, Z zero rated, E exempt. */
export type TaxCategory = (typeof TAX_CATEGORIES)[number];

/** A tax rate in percent, such as "23" or "13.5". */
export interface Tax {
  readonly category: TaxCategory;
  readonly percent: DecimalText;
}

/** A price for one unit, kept on the basis on which it was typed. Source: docs/calculations.md, Prices and documents. */
export interface UnitPrice {
  readonly price: DecimalText;
  readonly basis: 'net' | 'gross';
}

/** The price without tax, to 4 places, half away from zero. Source: docs/calculations.md, Prices and documents. */
export function netUnitPrice({ price, basis }: UnitPrice, tax: Tax): DecimalText {
  if (basis === 'net') return price;
  return new Big(price).div(new Big(tax.percent).div(100).plus(1)).round(4, 1).toString();
}

/** The price with tax, to 4 places, half away from zero. */
export function grossUnitPrice({ price, basis }: UnitPrice, tax: Tax): DecimalText {
  if (basis === 'gross') return price;
  return new Big(price).times(new Big(tax.percent).div(100).plus(1)).round(4, 1).toString();
}

/**
 * Whether one unit, invoiced on its net amount, comes to the gross price that was typed.
 * @returns the gross amount in major units, to the places of the currency, that an invoice will show for one unit
 */
export function invoicedGross(unit: UnitPrice, tax: Tax, currency: Currency): { readonly gross: DecimalText; readonly asTyped: boolean } {
  const places = CURRENCY_DECIMALS[currency];
  const net = new Big(netUnitPrice(unit, tax)).round(places, 1);
  const gross = net.plus(net.times(tax.percent).div(100).round(places, 1));
  return { gross: gross.toFixed(places), asTyped: unit.basis === 'net' || gross.eq(unit.price) };
}

/**
 * Margin = (price − cost) / price, in percent to one place. Source: docs/calculations.md, Prices and documents.
 * @returns undefined where the price is nothing
 */
export function marginPercent(netPrice: DecimalText, cost: DecimalText): DecimalText | undefined {
  const price = new Big(netPrice);
  return price.eq(0) ? undefined : price.minus(cost).div(price).times(100).round(1, 1).toFixed(1);
}
