import { Big } from 'big.js';

/** ISO 4217 codes that Drumline computes with, and how many decimals their minor unit has. */
export const CURRENCY_DECIMALS = { EUR: 2, GBP: 2, USD: 2, JPY: 0, KWD: 3 } as const;
export type Currency = keyof typeof CURRENCY_DECIMALS;

/** An amount: a whole number of the currency's minor unit (cents for EUR). Source: docs/calculations.md, Conventions. */
export interface Money {
  readonly minor: number;
  readonly currency: Currency;
}

/**
 * A unit price, rate or factor: exact decimal text with up to 4 places, such as "90" or "32.5000".
 * Kept as text so that no binary floating point ever touches it.
 */
export type DecimalText = string;

const DECIMAL = /^-?\d{1,12}(\.\d{1,4})?$/;

/** @returns whether `text` is a decimal of up to 12 whole digits and 4 places. */
export function isDecimalText(text: string): text is DecimalText {
  return DECIMAL.test(text);
}

/** @throws RangeError where `minor` is not a whole number that binary integers hold exactly. */
export function money(minor: number, currency: Currency): Money {
  if (!Number.isSafeInteger(minor)) throw new RangeError(`not a whole number of minor units: ${minor}`);
  return { minor: minor === 0 ? 0 : minor, currency };
}

/** The exact value of `amount` in major units. */
export function majorOf(amount: Money): Big {
  return new Big(amount.minor).div(10 ** CURRENCY_DECIMALS[amount.currency]);
}
