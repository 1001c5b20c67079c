import { intersect, secondsIn, subtract, unite, type Instant, type Interval } from '../time';

export interface LaneBooking extends Interval {
  readonly id: string;
  /** Minutes kept free before and after. */
  readonly travelMinutes: number;
}

export interface LaneConflict {
  readonly bookingId: string;
  readonly why: 'overlaps another booking' | 'outside working time' | 'travel too tight';
}

/** One technician's span on the dispatch view; figures in seconds. Source: calculations.md 8. */
export interface LaneDay {
  readonly available: number;
  readonly booked: number;
  /** booked / available in percent, cut to a whole number; 0 where nothing is available. */
  readonly load: number;
  /** Available, not booked, from now on, without travel time. */
  readonly free: number;
  readonly gaps: readonly Interval[];
  readonly conflicts: readonly LaneConflict[];
}

/**
 * Available = working hours − time off; booked = bookings cut to available time, overlaps counted once;
 * free = available − booked from now on, with travel time kept free. What passed unused is lost.
 */
export function laneDay(
  working: readonly Interval[],
  timeOff: readonly Interval[],
  bookings: readonly LaneBooking[],
  now: Instant,
): LaneDay {
  const available = subtract(unite(working), unite(timeOff));
  const booked = intersect(available, unite(bookings));
  const kept = unite(bookings.map((b) => withTravel(b)));
  const gaps = subtract(available, kept)
    .map((gap) => ({ from: Math.max(gap.from, now) as Instant, to: gap.to }))
    .filter((gap) => gap.from < gap.to);
  const [whole, used] = [secondsIn(available), secondsIn(booked)];
  return {
    available: whole,
    booked: used,
    load: whole ? Math.floor((used * 100) / whole) : 0,
    free: secondsIn(gaps),
    gaps,
    conflicts: conflictsOf(available, bookings),
  };
}

function withTravel(booking: LaneBooking): Interval {
  const travel = booking.travelMinutes * 60;
  return { from: (booking.from - travel) as Instant, to: (booking.to + travel) as Instant };
}

function conflictsOf(available: readonly Interval[], bookings: readonly LaneBooking[]): LaneConflict[] {
  const found: LaneConflict[] = [];
  for (const booking of bookings) {
    const others = bookings.filter((other) => other.id !== booking.id);
    if (others.some((other) => touches(booking, other))) found.push({ bookingId: booking.id, why: 'overlaps another booking' });
    else if (others.some((other) => touches(withTravel(booking), other))) found.push({ bookingId: booking.id, why: 'travel too tight' });
    if (subtract([booking], available).length) found.push({ bookingId: booking.id, why: 'outside working time' });
  }
  return found;
}

function touches(a: Interval, b: Interval): boolean {
  return a.from < b.to && b.from < a.to;
}
