import type { Explanation, Instant, WorkCalendar } from '../../ground';
import type { Priority } from '../priority';

/** The SLA measures of one ticket. Source: docs/calculations.md, Clocks. */
export const CLOCK_NAMES = ['triage', 'response', 'update', 'resolution'] as const;
export type ClockName = (typeof CLOCK_NAMES)[number];

/** The working time a clock allows, in whole seconds, and the calendar it is counted on. */
export interface Target {
  readonly seconds: number;
  readonly calendar: WorkCalendar;
}

/** One version of a promise. Triage has a target of its own, whatever the priority. */
export interface PromiseVersion {
  readonly name: string;
  readonly version: number;
  /** The priority that clocks use until triage. */
  readonly defaultPriority: Priority;
  /** Percentages of a target, 1 to 99 and rising, at which a clock that runs warns. */
  readonly warnAt: readonly number[];
  readonly triage: Target;
  readonly response: Readonly<Record<Priority, Target>>;
  /** From each public contact by a person to the next. */
  readonly update: Readonly<Record<Priority, Target>>;
  readonly resolution: Readonly<Record<Priority, Target>>;
}

/** The reason for which a member's clocks hold, response and triage too. */
export const UMBRELLA_HOLD = 'umbrella';

/** What happened to a ticket, as far as clocks care, at the time it happened. */
export type ClockFact = { readonly at: Instant } & (
  | { readonly is: 'received' }
  | { readonly is: 'routed' }
  | { readonly is: 'public-contact' }
  | { readonly is: 'priority'; readonly priority: Priority }
  | { readonly is: 'promise'; readonly promise: PromiseVersion }
  /** With the reason of an umbrella every clock holds; else only update and resolution do. */
  | { readonly is: 'held'; readonly reason: string }
  /** Of an umbrella: a report that was received before all others joined. */
  | { readonly is: 'earlier-receipt'; readonly received: Instant }
  | { readonly is: 'runs' }
  | { readonly is: 'resolved' }
  | { readonly is: 'reopened' }
);

/** A stretch in which the clock did one thing. Working seconds are counted on the calendar of its time. */
export interface Segment {
  readonly from: Instant;
  readonly to: Instant;
  readonly did: 'ran' | 'held' | 'stopped';
  /** Working seconds that counted; 0 unless it ran. */
  readonly seconds: number;
}

export type ClockState =
  | { readonly is: 'running'; readonly due: Instant | 'never' }
  | { readonly is: 'holding'; readonly reason: string }
  | { readonly is: 'met'; readonly at: Instant }
  | { readonly is: 'missed and running'; readonly missedAt: Instant }
  | { readonly is: 'missed and ended'; readonly missedAt: Instant; readonly endedAt: Instant };

/** A run of the update clock that is over: each is met or missed by itself. */
export interface PastRun {
  readonly from: Instant;
  readonly endedAt: Instant;
  /** Undefined where it was met. */
  readonly missedAt: Instant | undefined;
}

/** A clock as of one instant. */
export interface ClockReading {
  readonly clock: ClockName;
  readonly state: ClockState;
  /** Whether it is on hold now, also after a miss. */
  readonly holding: boolean;
  /** Working seconds that counted so far. */
  readonly elapsed: number;
  /** Target less elapsed, in working seconds; negative once missed. */
  readonly remaining: number;
  /** Working seconds allowed. */
  readonly target: number;
  /** elapsed / target, cut to a whole number. */
  readonly percent: number;
  readonly segments: readonly Segment[];
  /** When it warns next, while it runs; undefined where no warning is left before the due instant. */
  readonly warns: { readonly percent: number; readonly at: Instant } | undefined;
  /** The runs before this one, oldest first; only the update clock has some. */
  readonly past: readonly PastRun[];
  readonly explanation: Explanation;
}
