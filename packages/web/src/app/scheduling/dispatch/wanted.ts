import type { BookingWire, DispatchWire, UnbookedWire } from '@core/scheduling';
import { formatMinutes, type Id, type NamedWork, naming } from '@core/ground';
import { minutesOf } from './dispatch.state';
import { firstRoom } from './drop-place';

/** What is to be booked or changed. */
export interface Wanted {
  readonly work: NamedWork;
  readonly booking?: BookingWire;
  readonly personId: Id<'person'> | null;
  readonly startsAt: string;
  readonly duration: string;
  readonly onSite: boolean;
}

const GRID_MS = 300_000;
const HALF_AN_HOUR = 30;
const onGrid = (ms: number) => new Date(Math.ceil(ms / GRID_MS) * GRID_MS).toISOString().replace('.000Z', 'Z');

/** Unbooked work, where there is room for it first. @param now in milliseconds */
export function wantedUnbooked(d: DispatchWire, work: UnbookedWire, now: number): Wanted {
  const minutes = work.estimate.p80;
  const room = firstRoom(d, work, minutes);
  return {
    work: naming(work),
    personId: room?.lane.personId ?? null,
    startsAt: onGrid(room ? Date.parse(room.gap.from) : now),
    duration: formatMinutes(minutes),
    onSite: work.needsVisit,
  };
}

/** Any work, of nobody yet: on the day that is shown, or from now where that is today. @param now in milliseconds */
export function wantedWork(d: DispatchWire, work: NamedWork, now: number): Wanted {
  const startsAt = onGrid(Math.max(now, Date.parse(d.days[0]!.from)));
  return { work: naming(work), personId: null, startsAt, duration: formatMinutes(HALF_AN_HOUR), onSite: false };
}

export function wantedBooking(booking: BookingWire): Wanted {
  return {
    work: naming(booking),
    booking,
    personId: booking.personId,
    startsAt: booking.startsAt,
    duration: formatMinutes(minutesOf(booking)),
    onSite: booking.onSite,
  };
}
