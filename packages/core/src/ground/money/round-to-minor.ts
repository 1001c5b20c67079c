import { Big } from 'big.js';
import { CURRENCY_DECIMALS, money, type Currency, type Money } from './money';

/**
 * Rounds `value / divisor` (major units) to the minor unit, half away from zero. The division is done on
 * integers, so a tie is seen exactly whatever the divisor. Source: docs/calculations.md, Conventions.
 * @param divisor a whole number above zero, such as 60 for a rate an hour times minutes
 * @throws RangeError where divisor is not a whole number above zero
 */
export function roundToMinor(value: Big, divisor: number, currency: Currency): Money {
  if (!Number.isSafeInteger(divisor) || divisor <= 0) throw new RangeError(`divisor must be above zero: ${divisor}`);
  const text = value.times(10 ** CURRENCY_DECIMALS[currency]).toFixed();
  const places = text.includes('.') ? text.length - text.indexOf('.') - 1 : 0;
  const numerator = BigInt(text.replace('.', ''));
  return money(Number(divideHalfAway(numerator, BigInt(divisor) * 10n ** BigInt(places))), currency);
}

/** Divides whole numbers, rounding half away from zero; `denominator` is above zero. */
export function divideHalfAway(numerator: bigint, denominator: bigint): bigint {
  const size = numerator < 0n ? -numerator : numerator;
  const rounded = (2n * size + denominator) / (2n * denominator);
  return numerator < 0n ? -rounded : rounded;
}
