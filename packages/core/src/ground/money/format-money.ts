import { CURRENCY_DECIMALS, type Currency, type Money } from './money';

export const CURRENCY_SIGNS = { EUR: '€', GBP: '£', USD: '$', JPY: '¥', KWD: 'KD ' } as const satisfies Record<Currency, string>;

/** An amount as people read it: "€1,250.50", "−€3.00". */
export function formatMoney(amount: Money): string {
  const decimals = CURRENCY_DECIMALS[amount.currency];
  const digits = String(Math.abs(amount.minor)).padStart(decimals + 1, '0');
  const whole = digits.slice(0, digits.length - decimals).replace(/\B(?=(\d{3})+$)/g, ',');
  const rest = decimals ? `.${digits.slice(-decimals)}` : '';
  return `${amount.minor < 0 ? '−' : ''}${CURRENCY_SIGNS[amount.currency]}${whole}${rest}`;
}

/** An amount as machines read it, in major units: "1250.50". */
export function plainMoney(amount: Money): string {
  const decimals = CURRENCY_DECIMALS[amount.currency];
  const digits = String(Math.abs(amount.minor)).padStart(decimals + 1, '0');
  const text = decimals ? `${digits.slice(0, -decimals)}.${digits.slice(-decimals)}` : digits;
  return amount.minor < 0 ? `-${text}` : text;
}
