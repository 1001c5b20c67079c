import { travelMinutes, type KnownTravel, type Place } from './travel-minutes';

/** A booking in a technician's order of the day. */
export interface DayStop {
  readonly id: string;
  /** Where it is; null where it is done from anywhere. */
  readonly place: Place | null;
}

/** Minutes on the way before and after each booking. */
export interface DayTravel {
  readonly before: number;
  readonly after: number;
}

/**
 * The ways of a day: to each visit from the visit before it, to the first from where the day begins, and back there
 * after the last. Work that is done from anywhere is done on the way.
 * @param stops in order of time
 */
export function travelOfDay(stops: readonly DayStop[], start: Place | null, known: KnownTravel): ReadonlyMap<string, DayTravel> {
  const travel = new Map<string, DayTravel>(stops.map((s) => [s.id, { before: 0, after: 0 }]));
  const visits = stops.filter((s) => s.place !== null);
  visits.forEach((visit, i) => {
    const from = i === 0 ? start : visits[i - 1]!.place;
    const after = i === visits.length - 1 ? travelMinutes(visit.place, start, known) : 0;
    travel.set(visit.id, { before: travelMinutes(from, visit.place, known), after });
  });
  return travel;
}
