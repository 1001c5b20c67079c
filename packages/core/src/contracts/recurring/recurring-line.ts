import type { DecimalText, LocalDate } from '../../ground';
import type { Schedule } from './periods';

export const COUNTED = ['flat', 'seat', 'asset', 'metered'] as const;
/** What a line counts: one always, people, devices, or what was read of a meter. */
export type Counted = (typeof COUNTED)[number];

export const PRORATIONS = ['daily', 'first day', 'whole'] as const;
export type Proration = (typeof PRORATIONS)[number];

export const PAID = ['in advance', 'in arrears'] as const;
export type Paid = (typeof PAID)[number];

/** Somebody or something that a line counts, from a day to the first day without. */
export interface Unit {
  /** The contact's or the asset's: several of one count once. */
  readonly of: string;
  readonly name: string;
  readonly from: LocalDate;
  readonly to: LocalDate | null;
}

export const PRICED = ['one price', 'tiers', 'volume'] as const;
/** How a line's price follows its count: not at all, each tier for the units in it, or all units at the price that their number reaches. */
export type Priced = (typeof PRICED)[number];

/** Units past so many have this price. */
export interface Tier {
  /** Above 0, rising. */
  readonly above: number;
  readonly price: DecimalText;
}

/** A price for one unit and one period from a day on, up to the next step. */
export interface PriceStep {
  readonly from: LocalDate;
  /** Net, in major units, up to 4 places. */
  readonly price: DecimalText;
  readonly tiers: readonly Tier[];
}

/** What was read of a meter: so much was used by a day since it was read before. */
export interface Reading {
  readonly on: LocalDate;
  /** Up to 4 places; below 0 where it takes an earlier one back. */
  readonly quantity: DecimalText;
}

/** Percent of the price, or money off a unit, on its days. */
export interface Discount {
  readonly from: LocalDate;
  readonly to: LocalDate | null;
  readonly off: { readonly percent: DecimalText } | { readonly money: DecimalText };
}

/** What is billed again each period. Dates are half open, and lie within the contract's. */
export interface RecurringLine {
  readonly counted: Counted;
  readonly from: LocalDate;
  readonly to: LocalDate | null;
  readonly schedule: Schedule;
  readonly paid: Paid;
  /** Days before a period begins that it is due; of no meaning in arrears. */
  readonly leadDays: number;
  readonly proration: Proration;
  readonly priced: Priced;
  readonly minimum: number | null;
  readonly maximum: number | null;
  /** In order of their dates, the first from the line's first day. */
  readonly prices: readonly PriceStep[];
  readonly discounts: readonly Discount[];
  readonly units: readonly Unit[];
  /** Of a line that is metered. */
  readonly readings: readonly Reading[];
  /** What one of them costs the provider for a period; null where nobody said. */
  readonly unitCost: DecimalText | null;
}
