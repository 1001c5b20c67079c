import { Big } from 'big.js';
import {
  type Currency,
  type DecimalText,
  type Explanation,
  formatMoney,
  majorOf,
  money,
  type Money,
  roundToMinor,
  step,
} from '../../ground';

const HUNDRED = 100;
const PERCENT_PLACES = 10_000;

/** Money somebody paid, with its tax in it. */
export interface Paid {
  readonly paid: Money;
  /** Units of the house's currency for one of the currency paid in; null where they are the same. */
  readonly exchange: DecimalText | null;
  readonly taxPercent: DecimalText;
}
export interface WorthOfExpense {
  /** What was paid, in the house's currency. */
  readonly gross: Money;
  readonly tax: Money;
  /** gross less tax */
  readonly net: Money;
  readonly explanation: Explanation;
}

/**
 * What an expense is worth in the house's currency. The exchanged amount is rounded once; its tax is
 * gross × rate / (1 + rate), rounded, and the net amount is what is left, as on receipts.
 * Source: docs/calculations.md, Prices and documents.
 */
export function worthOfExpense({ paid, exchange, taxPercent }: Paid, house: Currency): WorthOfExpense {
  const gross = exchange === null ? money(paid.minor, house) : roundToMinor(majorOf(paid).times(exchange), 1, house);
  const over = new Big(taxPercent).plus(HUNDRED).times(PERCENT_PLACES);
  const tax = roundToMinor(majorOf(gross).times(taxPercent).times(PERCENT_PLACES), Number(over.toFixed(0)), house);
  const net = money(gross.minor - tax.minor, house);
  const exchanged = exchange === null ? [] : [step(`exchanged at ${exchange} ${house} for one ${paid.currency}`, formatMoney(gross))];
  return {
    gross,
    tax,
    net,
    explanation: [step('paid', formatMoney(paid)), ...exchanged, step(`without ${taxPercent} % tax`, formatMoney(net))],
  };
}

/** What the client is charged for an expense: its net amount and the markup on it, rounded once. @param markupPercent 0 or more */
export function chargeOfExpense(net: Money, markupPercent: DecimalText): { readonly net: Money; readonly explanation: Explanation } {
  const charged = roundToMinor(majorOf(net).times(new Big(markupPercent).plus(HUNDRED)), HUNDRED, net.currency);
  const rule = new Big(markupPercent).eq(0) ? 'charged as paid, without tax' : `with a markup of ${markupPercent} %`;
  return { net: charged, explanation: [step(rule, formatMoney(charged))] };
}
