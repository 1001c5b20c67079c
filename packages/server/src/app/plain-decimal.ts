import { Big } from 'big.js';

/** A decimal as PostgreSQL gives it ("90.0000") without the places that say nothing ("90"). */
export function plainDecimal(text: string): string {
  return new Big(text).toFixed();
}
