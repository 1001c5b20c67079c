import { money, type Currency, type Money } from './money';

/**
 * Adds amounts of one currency.
 * @throws RangeError where an amount has another currency
 */
export function sumMoney(amounts: readonly Money[], currency: Currency): Money {
  let total = 0;
  for (const amount of amounts) {
    if (amount.currency !== currency) throw new RangeError(`cannot add ${amount.currency} to ${currency}`);
    total += amount.minor;
  }
  return money(total, currency);
}
