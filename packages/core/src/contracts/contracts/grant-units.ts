import { Big } from 'big.js';
import { CURRENCY_DECIMALS, type Currency, type DecimalText, isDecimalText } from '../../ground';
import type { Measure } from '../cover';

/** The most of anything that a contract grants at one time. */
const MOST = 1_000_000_000;

/**
 * What people type of an allowance, hours, money or tickets, as its units: minutes, minor units, tickets; undefined where it is
 * no whole number of them.
 */
export function grantUnits(measure: Measure, typed: DecimalText, currency: Currency): number | undefined {
  if (!isDecimalText(typed)) return undefined;
  const units = new Big(typed).times(unitsOfOne(measure, currency));
  return units.gte(0) && units.lte(MOST) && units.round(0, 0).eq(units) ? units.toNumber() : undefined;
}

/** Units as people type them: the inverse of grantUnits. */
export function typedGrant(measure: Measure, units: number, currency: Currency): DecimalText {
  return new Big(units).div(unitsOfOne(measure, currency)).toFixed();
}

/** How many units make one that people count in: 60 minutes an hour. */
export function unitsOfOne(measure: Measure, currency: Currency): number {
  if (measure === 'hours') return 60;
  return measure === 'money' ? 10 ** CURRENCY_DECIMALS[currency] : 1;
}
