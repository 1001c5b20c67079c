import type { Instant, Interval } from '../time';

/** A lane as far as a slot on it is judged. */
export interface JudgedLane {
  readonly working: readonly Interval[];
  readonly timeOff: readonly Interval[];
  readonly bookings: readonly (Interval & { readonly id: string })[];
  /** The lane of bookings without a technician keeps no hours. */
  readonly hasTechnician: boolean;
}

export type SlotTrouble = 'overlaps another booking' | 'on a day off' | 'outside working hours' | 'in the past';

/**
 * What stands against a slot on a lane, the gravest first; shown before a drop, and can be overruled.
 * @param itself the booking that moves, which is no trouble to itself
 */
export function slotTrouble(lane: JudgedLane, slot: Interval, now: Instant, itself?: string): SlotTrouble | undefined {
  const crosses = (i: Interval) => i.from < slot.to && slot.from < i.to;
  if (lane.bookings.some((b) => b.id !== itself && crosses(b))) return 'overlaps another booking';
  if (lane.timeOff.some(crosses)) return 'on a day off';
  if (lane.hasTechnician && !lane.working.some((w) => w.from <= slot.from && slot.to <= w.to)) return 'outside working hours';
  return slot.from < now ? 'in the past' : undefined;
}
