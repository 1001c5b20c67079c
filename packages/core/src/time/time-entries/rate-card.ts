import type { DecimalText, Id, LocalDate, TimeBand } from '../../ground';

export const RATE_LEVELS = ['contract', 'client', 'default'] as const;
export type RateLevel = (typeof RATE_LEVELS)[number];

/** Valid from `from` up to but not including `to`. Names as much of grade, activity and band as it needs. */
export interface RateRule {
  readonly id: string;
  readonly level: RateLevel;
  readonly gradeId: Id<'grade'> | null;
  readonly activityId: Id<'activity'> | null;
  readonly band: TimeBand | null;
  /** Currency an hour. */
  readonly rate: DecimalText;
  readonly from: LocalDate;
  readonly to: LocalDate | null;
}

/** How the minutes of an entry become billed minutes. An increment of 1 changes nothing. */
export interface Rounding {
  readonly increment: number;
  readonly mode: 'up' | 'nearest' | 'down';
  readonly minimum: number;
}

/** A factor on the rate, or a rate of its own to which no factor applies. */
export type Pricing = { readonly factor: DecimalText } | { readonly fixedRate: DecimalText };

export interface Activity {
  readonly id: string;
  readonly name: string;
  readonly rounding: Rounding;
  readonly pricing: Pricing;
  /** Added once a visit, in major units; null where there is none. */
  readonly callOutFee: DecimalText | null;
}

export type BandPricing = Readonly<Record<TimeBand, Pricing>>;
