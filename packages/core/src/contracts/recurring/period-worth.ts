import type { DecimalText, Explanation, Money } from '../../ground';
import type { Period } from './periods';
import type { PricedUnits } from './price-of-count';

/** Days on which a line has one count and one price: [from, to). */
export interface Stretch extends Period {
  readonly count: number;
  /** Its units by the price that each has. */
  readonly parts: readonly PricedUnits[];
}

/** What a client is entitled to pay for a period of a line. */
export interface PeriodWorth {
  readonly amount: Money;
  /** One of them where price and count were the same on all days of the period; else a quantity of 1 at the amount. */
  readonly quantity: DecimalText;
  readonly price: DecimalText;
  readonly stretches: readonly Stretch[];
  /** What it costs the provider, by the same days; null where nobody said what one costs. */
  readonly cost: Money | null;
  readonly why: Explanation;
}
