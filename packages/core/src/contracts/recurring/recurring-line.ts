import type { DecimalText, LocalDate } from '../../ground';
import type { Schedule } from './periods';

export const COUNTED = ['flat', 'seat', 'asset'] as const;
/** What a line counts: one always, people, or devices. */
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

/** A price for one unit and one period from a day on, up to the next step. */
export interface PriceStep {
  readonly from: LocalDate;
  /** Net, in major units, up to 4 places. */
  readonly price: DecimalText;
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
  readonly minimum: number | null;
  readonly maximum: number | null;
  /** In order of their dates, the first from the line's first day. */
  readonly prices: readonly PriceStep[];
  readonly discounts: readonly Discount[];
  readonly units: readonly Unit[];
}
