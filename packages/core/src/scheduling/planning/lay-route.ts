import type { Instant } from '../../ground';
import {
  MOVE_COST,
  PLAN_WEIGHTS,
  TRAVEL_COST_A_MINUTE,
  minutesLate,
  type PlanProblem,
  type PlanTechnician,
  type PlanWork,
} from './plan-problem';

/** A piece of work in a technician's order of the day; kept where its booking stands, or laid as early as it can be. */
export interface Stop {
  readonly work: PlanWork;
  readonly kept: boolean;
}

/** When each stop begins and ends, the travel before it in minutes, and what all of it costs. */
export interface LaidStop {
  readonly pieceId: string;
  readonly from: Instant;
  readonly to: Instant;
  readonly travelMinutes: number;
  readonly kept: boolean;
}
export interface Route {
  readonly cost: number;
  readonly stops: readonly LaidStop[];
}

/**
 * Lays the stops of a technician one after the other. Work that is laid anew lies with the way to it within one
 * stretch of available time; what is kept stays to the second, and only what the plan lays beside it must leave time
 * for the way. Work without a place is done wherever the technician is. Beginning as early as can be is never
 * dearer, so a route has one best laying.
 * @param upTo cost from which on the caller has no use for the answer
 * @returns undefined where the stops do not fit
 */
export function layRoute({
  problem,
  technician,
  stops,
  upTo = Infinity,
}: {
  readonly problem: PlanProblem;
  readonly technician: PlanTechnician;
  readonly stops: readonly Stop[];
  readonly upTo?: number;
}): Route | undefined {
  const laid: LaidStop[] = [];
  let [freeOfLaid, freeOfKept, place, cost, stretch] = [-Infinity, -Infinity, technician.start, 0, 0];
  let wasKept = true;
  for (const { work, kept } of stops) {
    if (work.skillId !== null && !technician.skills[work.skillId] && !kept) return undefined;
    const travelMinutes = place !== null && work.place !== null ? problem.travel(place, work.place) : 0;
    let from: number;
    if (kept) {
      const { booking } = work;
      if (!booking || booking.technicianId !== technician.id) return undefined;
      if (booking.from < freeOfLaid + (wasKept ? 0 : travelMinutes * 60)) return undefined;
      // Two fixed bookings may collide: that is how it is, and not for the plan to mend.
      if (!booking.fixed && booking.from < freeOfKept) return undefined;
      from = booking.from;
    } else {
      const found = firstFit({
        technician,
        free: Math.max(freeOfLaid, freeOfKept, problem.from),
        travel: travelMinutes * 60,
        length: work.minutes * 60,
        grid: problem.grid,
        stretch,
      });
      if (!found) return undefined;
      [from, stretch] = [found.from, found.stretch];
    }
    const to = kept ? work.booking!.to : ((from + work.minutes * 60) as Instant);
    cost +=
      PLAN_WEIGHTS[work.priority] * minutesLate(to, work.dueAt) +
      TRAVEL_COST_A_MINUTE * travelMinutes +
      (work.booking && !kept ? MOVE_COST : 0);
    if (cost >= upTo) return undefined;
    laid.push({ pieceId: work.id, from: from as Instant, to, travelMinutes, kept });
    if (kept) freeOfKept = Math.max(freeOfKept, to);
    else freeOfLaid = to;
    [place, wasKept] = [work.place ?? place, kept];
  }
  return { cost, stops: laid };
}

/** The first begin at which the way and the work lie in one stretch of available time, not before `free`. */
function firstFit({
  technician: { available },
  free,
  travel,
  length,
  grid,
  stretch,
}: {
  readonly technician: PlanTechnician;
  readonly free: number;
  readonly travel: number;
  readonly length: number;
  readonly grid: number;
  readonly stretch: number;
}): { from: number; stretch: number } | undefined {
  for (let i = stretch; i < available.length; i++) {
    const { from, to } = available[i]!;
    const begin = Math.ceil((Math.max(from, free) + travel) / grid) * grid;
    if (begin + length <= to) return { from: begin, stretch: i };
  }
  return undefined;
}
