import type { DecimalText, Explanation, Id, Instant, LocalDate, Money, TimeBand } from '../../ground';
import type { Schedule } from '../recurring';

export const MEASURES = ['hours', 'money', 'incidents', 'unlimited'] as const;
/** In what an allowance counts: minutes, minor units, or tickets. */
export type Measure = (typeof MEASURES)[number];

export const GRANTS = ['each period', 'once'] as const;
export const GRANTED = ['whole', 'by days'] as const;

/** How much work a contract holds. */
export interface Allowance {
  readonly id: Id<'contract_allowance'>;
  readonly name: string;
  readonly measure: Measure;
  /** Minutes, minor units or tickets; of no meaning where it is unlimited. */
  readonly grant: number;
  readonly each: (typeof GRANTS)[number];
  /** Whether a period of which the contract has a part alone is granted in full. */
  readonly granted: (typeof GRANTED)[number];
  /** Days past its period that what is left can still be drawn. */
  readonly carryDays: number;
  /** Percent of the next period's full grant that can be taken before it. */
  readonly borrowPercent: number;
  /** Grants of later periods, in order of their days: a period has the last one by its first active day. */
  readonly later: readonly LaterGrant[];
  /** Of what is granted once: more that was bought since, each from another day. */
  readonly blocks: readonly Block[];
}

/** What is granted from a day on, in place of what was before. */
export interface LaterGrant {
  readonly from: LocalDate;
  readonly grant: number;
}

/** A prepaid block. Dates are half open; null never expires. */
export interface Block {
  readonly from: LocalDate;
  readonly expiry: LocalDate | null;
  readonly grant: number;
}

/** Which work a contract covers; what it leaves open, it does not ask. The first that matches holds. */
export interface CoverRule {
  readonly id: Id<'contract_cover'>;
  readonly gradeIds: readonly string[] | null;
  readonly activityIds: readonly string[] | null;
  readonly bands: readonly TimeBand[] | null;
  readonly deskIds: readonly string[] | null;
  /** Of tickets. */
  readonly kinds: readonly string[] | null;
  /** The days on which it holds, half open; null as long as its contract. */
  readonly from: LocalDate | null;
  readonly to: LocalDate | null;
  /** What it draws on; null makes all of it overage. */
  readonly allowanceId: Id<'contract_allowance'> | null;
  /** The most that is drawn under it in a period: minutes, or minor units of a money allowance. */
  readonly cap: number | null;
  /** On the rate of what is left; the contract's where it says nothing. */
  readonly overageFactor: DecimalText | null;
  /** Whether a call-out is covered with the work. */
  readonly includesFees: boolean;
}

/** What a contract says of work. Dates are half open. */
export interface CoverTerms {
  readonly from: LocalDate;
  readonly to: LocalDate | null;
  /** When allowances are granted anew. */
  readonly schedule: Schedule;
  readonly rules: readonly CoverRule[];
  readonly allowances: readonly Allowance[];
  readonly overageFactor: DecimalText;
}

/** A stretch of an entry as it was rated. */
export interface RatedStretch {
  readonly band: TimeBand;
  readonly minutes: number;
  /** Currency an hour, exact. */
  readonly rate: DecimalText;
  readonly net: Money;
}

/** An entry of the contract: billable, not flat-fee, of the client. */
export interface WorkToCover {
  readonly id: string;
  readonly startsAt: Instant;
  /** The provider's date on which it begins. */
  readonly on: LocalDate;
  readonly gradeId: string;
  readonly activityId: string;
  readonly ticketId: string | null;
  /** The ticket's; null where there is none. */
  readonly deskId: string | null;
  readonly kind: string | null;
  readonly stretches: readonly RatedStretch[];
  /** What a frozen entry drew, which never changes. */
  readonly frozen?: readonly CoveredStretch[];
}

/** What was taken of one lot. */
export interface Draw {
  readonly allowanceId: Id<'contract_allowance'>;
  /** The first day of the lot. */
  readonly lot: LocalDate;
  /** Minutes, minor units or tickets; 0 of what has no limit. */
  readonly units: number;
  /** Where the lot is the next period's. */
  readonly borrowed: boolean;
}

export type CoverState = 'not covered' | 'covered' | 'overage' | 'part overage';

/** What a contract does with one stretch: minutes and amounts add up to the stretch's. */
export interface CoveredStretch extends RatedStretch {
  readonly is: CoverState;
  readonly ruleId: Id<'contract_cover'> | null;
  readonly draws: readonly Draw[];
  readonly coveredMinutes: number;
  /** What of the stretch's amount the contract takes. */
  readonly covered: Money;
  /** What the client pays, after the overage factor. */
  readonly charge: Money;
  readonly factor: DecimalText;
  /** Whether what is paid is so many minutes at a rate, or an amount that money did not reach to. */
  readonly overIs: 'minutes' | 'amount';
}

/** What is left of an allowance on an entry's day, after it. */
export interface LeftAfter {
  readonly allowanceId: Id<'contract_allowance'>;
  readonly left: number;
}

export interface CoveredEntry {
  readonly id: string;
  readonly stretches: readonly CoveredStretch[];
  readonly left: LeftAfter | null;
  /** Whether its call-out is covered. */
  readonly coversFees: boolean;
  readonly why: Explanation;
}
