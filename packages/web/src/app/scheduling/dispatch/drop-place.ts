import { type BookingWire, type DispatchWire, type LaneWire, pairOf, slotTroubles, type UnbookedWire } from '@core/scheduling';
import { instantOfMillis, type Interval, type Zone } from '@core/ground';
import { clockTime } from '../../ui/time-format';
import type { BoardScale } from './board-scale';
import type { Gap, Ghost } from './dispatch-lane';
import { minutesOf, type Slot } from './dispatch.state';

export type Dragged = { readonly unbooked: UnbookedWire } | { readonly booking: BookingWire };
export interface Place {
  readonly lane: LaneWire;
  readonly slot: Slot;
}
const STEP_MS = 5 * 60_000;

/** The lane and time that a pointer is over, on five minutes. @param dragged pixels since the drag began */
export function dropPlace({
  d,
  scale,
  data,
  point,
  dragged,
}: {
  readonly d: DispatchWire;
  readonly scale: BoardScale;
  readonly data: Dragged;
  readonly point: { x: number; y: number };
  readonly dragged: number;
}): Place | undefined {
  const track = document.elementsFromPoint(point.x, point.y).find((e) => e.hasAttribute('data-lane'));
  const lane = d.lanes.find((l) => (l.personId ?? 'nobody') === track?.getAttribute('data-lane'));
  if (!track || !lane) return undefined;
  const box = track.getBoundingClientRect();
  const share = (pixels: number) => (pixels / box.width) * 100;
  const raw =
    'unbooked' in data ? scale.at(share(point.x - box.left)) : scale.at(scale.share(Date.parse(data.booking.startsAt)) + share(dragged));
  const minutes = 'unbooked' in data ? data.unbooked.estimate.p80 : minutesOf(data.booking);
  const startsAt = new Date(Math.round(raw / STEP_MS) * STEP_MS).toISOString().replace('.000Z', 'Z');
  return { lane, slot: { personId: lane.personId, startsAt, minutes } };
}

/** The earliest gap that is long enough, of somebody who knows how. */
export function firstRoom(
  d: DispatchWire,
  work: UnbookedWire,
  minutes: number,
): { readonly lane: LaneWire; readonly gap: Gap } | undefined {
  const knows = (l: LaneWire) => l.personId !== null && (!work.skill || l.skills.some((k) => k.skillId === work.skill!.id));
  return d.lanes
    .filter(knows)
    .flatMap((lane) => lane.days.flatMap((x) => x.gaps.map((gap) => ({ lane, gap }))))
    .filter(({ gap }) => minutesOf({ startsAt: gap.from, endsAt: gap.to }) >= minutes)
    .sort((a, b) => (a.gap.from < b.gap.from ? -1 : a.gap.from > b.gap.from ? 1 : 0))[0];
}

/** What stands against a drop, before it. @param now epoch milliseconds */
export function troublesOf({
  d,
  place: { lane, slot },
  data,
  now,
}: {
  readonly d: DispatchWire;
  readonly place: Place;
  readonly data: Dragged;
  readonly now: number;
}): string[] {
  const interval = (from: string, to: string): Interval => ({
    from: instantOfMillis(Date.parse(from)),
    to: instantOfMillis(Date.parse(to)),
  });
  const work = 'unbooked' in data ? data.unbooked : data.booking;
  const from = Date.parse(slot.startsAt);
  const judged = {
    working: lane.days.flatMap((x) => x.working.map((w) => interval(w.from, w.to))),
    timeOff: lane.days.flatMap((x) => x.away.map((a) => interval(a.from, a.to))),
    bookings: lane.bookings
      .filter((b) => b.state !== 'cancelled')
      .map((b) => ({ id: b.id, ...interval(b.startsAt, b.endsAt), place: b.place ?? null })),
    skills: Object.fromEntries(lane.skills.map((s) => [s.skillId, s.level])),
    hasTechnician: lane.personId !== null,
  };
  const wanted = {
    from: instantOfMillis(from),
    to: instantOfMillis(from + slot.minutes * 60_000),
    place: work.place ?? null,
    skill: work.skill ?? null,
    dueAt: work.dueAt ? instantOfMillis(Date.parse(work.dueAt)) : null,
    itself: 'booking' in data ? data.booking.id : undefined,
  };
  return slotTroubles({
    lane: judged,
    slot: wanted,
    now: instantOfMillis(now),
    known: new Map(d.known.map((k) => [pairOf(k.a, k.b), k.minutes])),
  });
}

export function ghostOf({
  scale,
  place: { lane, slot },
  troubles,
  zone,
}: {
  readonly scale: BoardScale;
  readonly place: Place;
  readonly troubles: readonly string[];
  readonly zone: Zone;
}): Ghost {
  const from = Date.parse(slot.startsAt);
  const to = from + slot.minutes * 60_000;
  const words = `${clockTime(from, zone)} to ${clockTime(to, zone)}${troubles.length ? `: ${troubles.join(', ')}` : ''}`;
  return { personId: lane.personId, left: scale.share(from), width: scale.width(from, to), words, trouble: troubles.length > 0 };
}
