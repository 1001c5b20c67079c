import { money, type Money } from './money';

/**
 * Shares `total` out in proportion to whole `weights`. The parts always sum to the total; what rounding
 * leaves goes to the largest remainder first, ties to the earlier part; symmetric in sign.
 * Source: docs/calculations.md, Conventions.
 * @throws RangeError where there is no weight above zero, or one is negative or not whole
 */
export function allocate(total: Money, weights: readonly number[]): Money[] {
  if (weights.some((weight) => !Number.isSafeInteger(weight) || weight < 0)) throw new RangeError('weights must be whole and not negative');
  const sum = weights.reduce((a, b) => a + BigInt(b), 0n);
  if (sum === 0n) throw new RangeError('at least one weight must be above zero');
  const sign = total.minor < 0 ? -1 : 1;
  const size = BigInt(Math.abs(total.minor));
  const parts = weights.map((weight) => {
    const exact = size * BigInt(weight);
    return { share: exact / sum, remainder: exact % sum };
  });
  let left = size - parts.reduce((a, part) => a + part.share, 0n);
  // A sort leaves what ties in its order.
  for (const part of [...parts].sort((a, b) => Number(b.remainder - a.remainder))) {
    if (left === 0n) break;
    part.share++;
    left--;
  }
  return parts.map((part) => money(sign * Number(part.share), total.currency));
}
