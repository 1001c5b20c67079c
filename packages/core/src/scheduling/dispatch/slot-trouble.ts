import { travelMinutes, type KnownTravel, type Place } from '../travel';
import type { Instant, Interval } from '../../ground';

/** A lane as far as a slot on it is judged. */
export interface JudgedLane {
  readonly working: readonly Interval[];
  /** Time off. */
  readonly timeOff: readonly Interval[];
  readonly bookings: readonly (Interval & { readonly id: string; readonly place: Place | null })[];
  /** Levels by skill id. */
  readonly skills: Readonly<Record<string, number>>;
  /** The lane of bookings without a technician keeps no hours and knows everything. */
  readonly hasTechnician: boolean;
}

/** A slot that somebody thinks of, and what the work in it needs. */
export interface WantedSlot extends Interval {
  /** Where it is; null where it is done from anywhere. */
  readonly place: Place | null;
  readonly skill: { readonly id: string; readonly name: string } | null;
  readonly dueAt: Instant | null;
  /** The booking that moves, which is no trouble to itself. */
  readonly itself?: string | undefined;
}

/**
 * All that stands against a slot on a lane, the gravest first; shown before a drop, and can be overruled.
 * @param known travel that is known better than by coordinates
 */
export function slotTroubles({
  lane,
  slot,
  now,
  known,
}: {
  readonly lane: JudgedLane;
  readonly slot: WantedSlot;
  readonly now: Instant;
  readonly known: KnownTravel;
}): string[] {
  const crosses = (i: Interval) => i.from < slot.to && slot.from < i.to;
  const others = lane.bookings.filter((b) => b.id !== slot.itself);
  const overlaps = others.some(crosses);
  const away = lane.timeOff.some(crosses);
  const outside = lane.hasTechnician && !away && !lane.working.some((w) => w.from <= slot.from && slot.to <= w.to);
  const unskilled = lane.hasTechnician && slot.skill !== null && !lane.skills[slot.skill.id];
  return [
    ...(overlaps ? ['overlaps another booking'] : []),
    ...(away ? ['not here'] : []),
    ...(outside ? ['outside working hours'] : []),
    ...(!overlaps && isTight(others, slot, known) ? ['travel too tight'] : []),
    ...(unskilled ? [`skill missing: ${slot.skill!.name}`] : []),
    ...(slot.dueAt !== null && slot.dueAt >= now && slot.to > slot.dueAt ? ['promise missed'] : []),
    ...(slot.from < now ? ['in the past'] : []),
  ];
}

/** Whether the way from the visit before or to the visit after is longer than the time between. */
function isTight(others: JudgedLane['bookings'], slot: WantedSlot, known: KnownTravel): boolean {
  if (!slot.place) return false;
  const visits = others.filter((b) => b.place !== null);
  const before = visits.filter((b) => b.to <= slot.from).sort((a, b) => b.to - a.to)[0];
  const after = visits.filter((b) => b.from >= slot.to).sort((a, b) => a.from - b.from)[0];
  const short = (room: number, from: Place | null, to: Place | null) => room < travelMinutes(from, to, known) * 60;
  if (before && short(slot.from - before.to, before.place, slot.place)) return true;
  return after !== undefined && short(after.from - slot.to, slot.place, after.place);
}
