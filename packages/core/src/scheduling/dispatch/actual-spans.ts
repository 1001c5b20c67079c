import type { Id, Instant, Interval } from '../../ground';

/** A booking that is marked done, with the span that was planned. */
export interface DoneBooking {
  readonly id: string;
  readonly planned: Interval;
}

/** A time entry of the same technician on the same ticket. */
export interface WorkedEntry {
  readonly id: string;
  readonly span: Interval;
  /** The booking that its technician said it belongs to, where they were asked. */
  readonly bookingId?: Id<'booking'> | null;
}

/** Which booking an entry belongs to, and which others it fits equally well. */
export interface Belonging {
  readonly bookingId: Id<'booking'>;
  readonly equally: readonly string[];
}

type DayOf = (at: Instant) => string;
const overlapOf = (a: Interval, b: Interval): number => Math.max(0, Math.min(a.to, b.to) - Math.max(a.from, b.from));
const distanceOf = (a: Interval, b: Interval): number => Math.max(0, a.from - b.to, b.from - a.to);

/**
 * The booking that an entry belongs to: the one it overlaps most, else the nearest that is planned on the entry's
 * local day; of equals the earlier, then the smaller id, until its technician says which. Source: docs/calculations.md, Actual spans.
 * @param bookings of the same ticket and technician
 */
export function bookingOf(entry: WorkedEntry, bookings: readonly DoneBooking[], dayOf: DayOf): Belonging | undefined {
  if (entry.bookingId && bookings.some((b) => b.id === entry.bookingId)) return { bookingId: entry.bookingId, equally: [] };
  const overlapping = bookings.filter((b) => overlapOf(entry.span, b.planned) > 0);
  const near = overlapping.length ? overlapping : bookings.filter((b) => dayOf(b.planned.from) === dayOf(entry.span.from));
  const rank = (b: DoneBooking): number => (overlapping.length ? -overlapOf(entry.span, b.planned) : distanceOf(entry.span, b.planned));
  const best = Math.min(...near.map(rank));
  const [first, ...others] = near.filter((b) => rank(b) === best).sort((a, b) => a.planned.from - b.planned.from || (a.id < b.id ? -1 : 1));
  return first && { bookingId: first.id, equally: others.map((b) => b.id) };
}

/**
 * The spans that bookings really took: from the earliest start to the latest end of the entries that belong to
 * each. A booking without an entry keeps what was planned. Source: docs/calculations.md, Actual spans.
 */
export function actualSpans(
  bookings: readonly DoneBooking[],
  entries: readonly WorkedEntry[],
  dayOf: DayOf,
): ReadonlyMap<string, Interval> {
  const spans = new Map<string, Interval>();
  for (const entry of entries) {
    const to = bookingOf(entry, bookings, dayOf)?.bookingId;
    if (to === undefined) continue;
    const was = spans.get(to) ?? entry.span;
    spans.set(to, {
      from: Math.min(was.from, entry.span.from) as Instant,
      to: Math.max(was.to, entry.span.to) as Instant,
    });
  }
  return new Map(bookings.map((b) => [b.id, spans.get(b.id) ?? b.planned]));
}
