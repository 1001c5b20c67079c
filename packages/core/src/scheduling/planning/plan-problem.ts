import type { Priority } from '../../desk';
import type { Id, Instant, Interval } from '../../ground';

/** A technician as far as a plan needs to know. Places and skills are named by their ids. */
export interface PlanTechnician {
  readonly id: string;
  /** When new work may be put here: working time less time off and what is fixed outside; united and in order. */
  readonly available: readonly Interval[];
  /** Where the first way of the day begins; null where it takes no time. */
  readonly start: string | null;
  /** Skill to level, 1 to 3. */
  readonly skills: Readonly<Record<string, number>>;
}

/** Where a piece of work stands before the plan is made. */
export interface Standing extends Interval {
  readonly technicianId: Id<'person'>;
  /** A fixed booking stays where it is, whatever else happens. */
  readonly fixed: boolean;
}

/** A piece of work, with its booking where it has one. */
export interface PlanWork {
  readonly id: string;
  readonly minutes: number;
  readonly priority: Priority;
  readonly dueAt: Instant | null;
  /** The place it is done at; null where it is done from anywhere. */
  readonly place: string | null;
  /** The skill it asks for, at a level of 1 at least. */
  readonly skillId: Id<'skill'> | null;
  readonly booking: Standing | null;
}

export interface PlanProblem {
  readonly technicians: readonly PlanTechnician[];
  readonly work: readonly PlanWork[];
  /** Nothing new begins before this. */
  readonly from: Instant;
  /** Work begins on multiples of so many seconds; 1 where any second will do. */
  readonly grid: number;
  /** Whole minutes between two places, 0 within one. */
  readonly travel: (from: string, to: string) => number;
}

/** Weights, prices of travel and of moving, and what leaving work out costs besides. Source: docs/calculations.md, A plan. */
export const PLAN_WEIGHTS: Readonly<Record<Priority, number>> = { P1: 8, P2: 4, P3: 2, P4: 1 };
export const TRAVEL_COST_A_MINUTE = 0.2;
export const MOVE_COST = 5;
export const LEFT_OUT_MINUTES = 240;

/** Elapsed minutes by which an end is later than due; none where it is due at no time. */
export function minutesLate(end: Instant, dueAt: Instant | null): number {
  return dueAt === null ? 0 : Math.max(0, end - dueAt) / 60;
}

/** The end of the plan's last shift. */
export function lastShiftEnd(problem: PlanProblem): Instant {
  return Math.max(problem.from, ...problem.technicians.flatMap((t) => t.available.map((i) => i.to))) as Instant;
}

/** What it costs that a piece of work has no place in the plan. */
export function leftOutCost(work: PlanWork, lastEnd: Instant): number {
  return PLAN_WEIGHTS[work.priority] * (minutesLate(lastEnd, work.dueAt) + LEFT_OUT_MINUTES);
}
