import { divideHalfAway } from './round-to-minor';
import type { DecimalText } from './money';

/** A decimal as a whole number of its last place: "32.50" is 3250 with 2 places. */
export interface Scaled {
  readonly units: bigint;
  readonly places: number;
}

/** @param text plain decimal text, however many places it has */
export function scaledOf(text: DecimalText): Scaled {
  const point = text.indexOf('.');
  return point < 0 ? { units: BigInt(text), places: 0 } : { units: BigInt(text.replace('.', '')), places: text.length - point - 1 };
}

/**
 * Rounds a quotient of whole numbers, half away from zero, by machine numbers where they hold it exactly.
 * @param denominator above zero
 */
export function roundQuotient(numerator: bigint, denominator: bigint): number {
  const [n, d] = [Number(numerator), Number(denominator)];
  if (!Number.isSafeInteger(2 * n + d) || !Number.isSafeInteger(2 * d)) return Number(divideHalfAway(numerator, denominator));
  const size = Math.abs(n);
  const rounded = (2 * size + d - ((2 * size + d) % (2 * d))) / (2 * d);
  return n < 0 ? -rounded : rounded;
}
