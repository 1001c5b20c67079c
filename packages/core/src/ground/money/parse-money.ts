import { Big } from 'big.js';
import { CURRENCY_DECIMALS, money, type Currency, type Money } from './money';

/**
 * Reads what a person typed as an amount in major units: "1,250.50", "1250.5", "€12".
 * @returns the amount, or undefined where it is no number or has more places than the currency
 */
export function parseMoney(typed: string, currency: Currency): Money | undefined {
  const plain = typed.replace(/[€£$¥\s]/g, '');
  if (!/^-?(\d{1,3}(,\d{3})+|\d+)(\.\d+)?$/.test(plain)) return undefined;
  const minor = new Big(plain.replaceAll(',', '')).times(10 ** CURRENCY_DECIMALS[currency]);
  if (!minor.eq(minor.round(0, 0)) || minor.abs().gt(Number.MAX_SAFE_INTEGER)) return undefined;
  return money(minor.toNumber(), currency);
}
