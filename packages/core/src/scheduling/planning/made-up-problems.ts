import type { Priority } from '../../desk';
import type { Instant, Interval } from '../../ground';
import type { PlanProblem, PlanTechnician, PlanWork, Standing } from './plan-problem';

export interface ProblemSize {
  readonly technicians: number;
  readonly work: number;
  /** Share of the work that is booked already, 0 to 1. */
  readonly booked: number;
  readonly places: number;
  /** How tight the day is: minutes of the longest piece. */
  readonly longest: number;
}

const PRIORITIES: readonly Priority[] = ['P1', 'P2', 'P3', 'P4'];
const NINE = 9 * 3600;

/**
 * A made-up day for tests and benchmarks: technicians with a break at noon, some skills, places on a plane, work of
 * all priorities due through the day, and bookings that fit one after the other.
 * @param random numbers from 0 to 1; the same numbers make the same day
 */
export function makeUpProblem(size: ProblemSize, random: () => number): PlanProblem {
  const pick = (n: number) => Math.floor(random() * n);
  const spots = Array.from({ length: size.places }, () => [pick(40), pick(40)] as const);
  const travel = (a: string, b: string) => {
    const [p, q] = [spots[Number(a)]!, spots[Number(b)]!];
    return a === b ? 0 : 5 + Math.round(Math.hypot(p[0] - q[0], p[1] - q[1]));
  };
  const technicians = Array.from({ length: size.technicians }, (_, i): PlanTechnician => ({
    id: `t${i}`,
    available: [span(NINE, NINE + 3 * 3600), span(NINE + 4 * 3600, NINE + (6 + pick(3)) * 3600)],
    start: size.places && random() < 0.7 ? String(pick(size.places)) : null,
    skills: Object.fromEntries(['s0', 's1'].filter(() => random() < 0.75).map((s) => [s, 1 + pick(3)])),
  }));
  const ends = technicians.map((t) => t.available[0]!.from as number);
  const work = Array.from({ length: size.work }, (_, i): PlanWork => {
    const minutes = 15 + 5 * pick((size.longest - 15) / 5);
    const t = pick(technicians.length);
    const skillId = random() < 0.4 ? `s${pick(2)}` : null;
    const place = size.places && random() < 0.5 ? String(pick(size.places)) : null;
    let booking: Standing | null = null;
    if (random() < size.booked) {
      const from = ends[t]! + 60 * 5 * (8 + pick(6));
      const fits = technicians[t]!.available.some((a) => a.from <= from && from + minutes * 60 <= a.to);
      if (fits && (skillId === null || technicians[t]!.skills[skillId])) {
        booking = { technicianId: `t${t}`, ...span(from, from + minutes * 60), fixed: random() < 0.4 };
        ends[t] = from + minutes * 60;
      }
    }
    const dueAt = random() < 0.85 ? ((NINE + 60 * 5 * pick(110)) as Instant) : null;
    return { id: `w${i}`, minutes, priority: PRIORITIES[pick(4)]!, dueAt, place, skillId, booking };
  });
  return { technicians, work, from: (NINE + 60 * 5 * pick(6)) as Instant, grid: 1, travel };
}

function span(from: number, to: number): Interval {
  return { from: from as Instant, to: to as Instant };
}
