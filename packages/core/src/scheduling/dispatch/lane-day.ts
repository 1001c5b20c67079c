import { type Id, type Instant, intersect, type Interval, secondsIn, subtract, unite } from '../../ground';

export interface LaneBooking extends Interval {
  readonly id: string;
  /** Minutes on the way that are kept free before it and after it. */
  readonly travelBefore: number;
  readonly travelAfter: number;
}

export interface LaneConflict {
  readonly bookingId: Id<'booking'>;
  readonly why: 'overlaps another booking' | 'outside working time' | 'travel too tight';
}

/** One technician's span on the dispatch view; figures in seconds. Source: docs/calculations.md, Load. */
export interface LaneDay {
  readonly available: number;
  readonly booked: number;
  /** booked / available in percent, cut to a whole number; 0 where nothing is available. */
  readonly load: number;
  /** Available, not booked, from now on, without travel time. */
  readonly free: number;
  /** Available time that passed with nothing booked, no way to go and nothing recorded. */
  readonly lost: number;
  readonly gaps: readonly Interval[];
  readonly conflicts: readonly LaneConflict[];
}

/**
 * Available = working hours − time off; booked = bookings cut to available time, overlaps counted once;
 * free = available − booked from now on, with travel time kept free. What passed unused is lost; work that was recorded
 * without a booking is no lost time.
 */
export function laneDay({
  working,
  timeOff,
  bookings,
  recorded,
  now,
}: {
  readonly working: readonly Interval[];
  readonly timeOff: readonly Interval[];
  readonly bookings: readonly LaneBooking[];
  readonly recorded: readonly Interval[];
  readonly now: Instant;
}): LaneDay {
  const available = subtract(unite(working), unite(timeOff));
  const booked = intersect(available, unite(bookings));
  const kept = unite(bookings.map((b) => withTravel(b)));
  const unused = subtract(available, kept);
  const gaps = cut(unused, now, Infinity);
  const [whole, used] = [secondsIn(available), secondsIn(booked)];
  return {
    available: whole,
    booked: used,
    load: whole ? Math.floor((used * 100) / whole) : 0,
    free: secondsIn(gaps),
    lost: secondsIn(subtract(cut(unused, -Infinity, now), unite(recorded))),
    gaps,
    conflicts: conflictsOf(available, bookings),
  };
}

function cut(intervals: readonly Interval[], from: number, to: number): Interval[] {
  return intervals
    .map((i) => ({ from: Math.max(i.from, from) as Instant, to: Math.min(i.to, to) as Instant }))
    .filter((i) => i.from < i.to);
}

function withTravel({ from, to, travelBefore, travelAfter }: LaneBooking): Interval {
  return { from: (from - travelBefore * 60) as Instant, to: (to + travelAfter * 60) as Instant };
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
