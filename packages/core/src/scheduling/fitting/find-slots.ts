import { travelMinutes, type KnownTravel, type Place } from '../travel';
import { plusSeconds, type Instant, type Interval } from '../../ground';

/** A booking as far as the way to and from what is put beside it goes. */
export interface Neighbour extends Interval {
  /** Where it is; null where it is done from anywhere. */
  readonly place: Place | null;
  /** Minutes that are kept free before and after it already. */
  readonly travelBefore: number;
  readonly travelAfter: number;
}

/** A technician's time in which room is looked for; gaps leave kept travel out already. */
export interface SlotLane {
  readonly gaps: readonly Interval[];
  readonly bookings: readonly Neighbour[];
  /** Where the day begins. */
  readonly start: Place | null;
}

/** Room for work: the slot itself and the minutes on the way before and after it. */
export interface Slot extends Interval {
  readonly travelBefore: number;
  readonly travelAfter: number;
}

/** Slots begin on so many minutes. */
export const SLOT_MINUTES = 5;

/**
 * The first room in a gap for work of so many minutes at a place, with the ways to it and on from it within the gap,
 * or undefined where it does not fit. Pure; instants are whole seconds.
 */
export function slotIn({
  lane,
  gap,
  minutes,
  place,
  known,
}: {
  readonly lane: SlotLane;
  readonly gap: Interval;
  readonly minutes: number;
  readonly place: Place | null;
  readonly known: KnownTravel;
}): Slot | undefined {
  const ways = waysBeside({ lane, gap, place, known });
  const from = roundedUp(plusSeconds(gap.from, ways.onTheWay * 60));
  return fitted(gap, { from, to: plusSeconds(from, minutes * 60) }, ways);
}

/** The very span in a gap with its ways, or undefined where it does not fit, or no longer. */
export function slotAt({
  lane,
  gap,
  span,
  place,
  known,
}: {
  readonly lane: SlotLane;
  readonly gap: Interval;
  readonly span: Interval;
  readonly place: Place | null;
  readonly known: KnownTravel;
}): Slot | undefined {
  return fitted(gap, span, waysBeside({ lane, gap, place, known }));
}

interface Ways {
  readonly travelBefore: number;
  /** Minutes of the way before that are not kept free by the neighbour already; the same for the way on. */
  readonly onTheWay: number;
  readonly onward: number;
}

function waysBeside({
  lane,
  gap,
  place,
  known,
}: {
  readonly lane: SlotLane;
  readonly gap: Interval;
  readonly place: Place | null;
  readonly known: KnownTravel;
}): Ways {
  const before = lane.bookings.filter((b) => b.from < gap.to && b.to <= gap.from && b.place).sort((a, b) => b.to - a.to)[0];
  const after = lane.bookings.filter((b) => b.from >= gap.to && b.place).sort((a, b) => a.from - b.from)[0];
  const travelBefore = place ? travelMinutes(before?.place ?? lane.start, place, known) : 0;
  // What the neighbours keep free for their own ways is outside the gap already.
  const onward = place && after ? Math.max(0, travelMinutes(place, after.place, known) - after.travelBefore) : 0;
  return { travelBefore, onTheWay: Math.max(0, travelBefore - (before?.travelAfter ?? 0)), onward };
}

function fitted(gap: Interval, span: Interval, { travelBefore, onTheWay, onward }: Ways): Slot | undefined {
  const fits = plusSeconds(span.from, -onTheWay * 60) >= gap.from && plusSeconds(span.to, onward * 60) <= gap.to;
  return fits ? { from: span.from, to: span.to, travelBefore, travelAfter: onward } : undefined;
}

function roundedUp(at: Instant): Instant {
  const step = SLOT_MINUTES * 60;
  return (Math.ceil(at / step) * step) as Instant;
}
