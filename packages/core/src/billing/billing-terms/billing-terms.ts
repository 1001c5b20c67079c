/** How often a client is billed: with every run that is prepared, or on a day of each week, month, quarter or year. */
export const BILLED_EVERY = ['run', 'week', 'month', 'quarter', 'year'] as const;
export type BilledEvery = (typeof BILLED_EVERY)[number];

/** On how many invoices: one for all of it, or one for each contract, site or purchase order. */
export const INVOICE_PER = ['client', 'contract', 'site', 'purchase order'] as const;
export type InvoicePer = (typeof INVOICE_PER)[number];

/** When a client is billed. */
export interface BillingRhythm {
  readonly every: BilledEvery;
  /** Of a week: 1 Monday to 7 Sunday. */
  readonly weekday: number | null;
  /** Of a month, quarter or year: 1 to 31; one past a month's end is its last day. */
  readonly day: number | null;
  /** Of a quarter 1 to 3, of a year 1 to 12. */
  readonly month: number | null;
}

export interface BillingTerms {
  readonly rhythm: BillingRhythm;
  readonly per: InvoicePer;
  /** Whole days before a period begins that what is paid in advance is due, where its contract line says no other number. */
  readonly leadDays: number;
}

/** What a client has of its own; null is what the house does. */
export type OwnTerms = { readonly [Name in keyof BillingTerms]: BillingTerms[Name] | null };

export const NO_TERMS: OwnTerms = { rhythm: null, per: null, leadDays: null };

/** The terms that hold for a client: its own, else the house's, each by itself. */
export function termsOf(own: OwnTerms, house: BillingTerms): BillingTerms {
  return { rhythm: own.rhythm ?? house.rhythm, per: own.per ?? house.per, leadDays: own.leadDays ?? house.leadDays };
}
