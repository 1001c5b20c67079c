/** What bookings are gathered by. */
export const GATHERED_BY = ['technician', 'kind', 'client'] as const;
export type GatheredBy = (typeof GATHERED_BY)[number];

/** A booking as far as plan and fact go; whole minutes. */
export interface PlannedBooking {
  readonly key: Readonly<Record<GatheredBy, string>>;
  readonly name: Readonly<Record<GatheredBy, string>>;
  readonly state: 'planned' | 'underway' | 'done' | 'cancelled';
  readonly plannedMinutes: number;
  /** What it took; meant only where it is done. */
  readonly actualMinutes: number;
  readonly travelMinutes: number;
  /** How often it was moved or handed over. */
  readonly moves: number;
}

/** Plan and fact of some bookings; whole minutes. */
export interface PlanFact {
  readonly key: string;
  readonly name: string;
  readonly bookings: number;
  readonly done: number;
  readonly cancelled: number;
  /** Bookings that were moved at least once, and all their moves. */
  readonly moved: number;
  readonly moves: number;
  /** Planned and actual minutes of what is done, so that like is held against like. */
  readonly plannedMinutes: number;
  readonly actualMinutes: number;
  /** Planned minutes of what is not done. */
  readonly aheadMinutes: number;
  readonly travelMinutes: number;
  /** Available time that passed with nothing booked; undefined where it belongs to nobody, as with kinds and clients. */
  readonly lostMinutes: number | undefined;
}

/**
 * Gathers bookings by technician, kind or client, the largest plan first. Every booking is in one row, so rows add up
 * to the total. Cancelled bookings count as such and bring no minutes.
 * @param lost minutes by technician's key; somebody without bookings has a row for what they lost
 */
export function comparePlan(
  bookings: readonly PlannedBooking[],
  by: GatheredBy,
  lost: ReadonlyMap<string, { readonly name: string; readonly minutes: number }>,
): PlanFact[] {
  const groups = new Map<string, { name: string; own: PlannedBooking[] }>();
  const groupOf = (key: string, name: string) => {
    const group = groups.get(key) ?? { name, own: [] };
    groups.set(key, group);
    return group;
  };
  for (const booking of bookings) groupOf(booking.key[by], booking.name[by]).own.push(booking);
  if (by === 'technician') for (const [key, { name, minutes }] of lost) if (minutes) groupOf(key, name);
  return [...groups]
    .map(([key, { name, own }]) => sumUp({ key, name, own, lostMinutes: by === 'technician' ? (lost.get(key)?.minutes ?? 0) : undefined }))
    .sort((a, b) => planOf(b) - planOf(a) || a.name.localeCompare(b.name));
}

/** All bookings together, with all time that was lost. */
export function totalPlan(bookings: readonly PlannedBooking[], lost: ReadonlyMap<string, { readonly minutes: number }>): PlanFact {
  const minutes = [...lost.values()].reduce((sum, l) => sum + l.minutes, 0);
  return sumUp({ key: '', name: 'all', own: bookings, lostMinutes: minutes });
}

function planOf(row: PlanFact): number {
  return row.plannedMinutes + row.aheadMinutes;
}

function sumUp({
  key,
  name,
  own,
  lostMinutes,
}: {
  readonly key: string;
  readonly name: string;
  readonly own: readonly PlannedBooking[];
  readonly lostMinutes: number | undefined;
}): PlanFact {
  const sum = (of: readonly PlannedBooking[], minutes: (b: PlannedBooking) => number) => of.reduce((total, b) => total + minutes(b), 0);
  const stands = own.filter((b) => b.state !== 'cancelled');
  const done = own.filter((b) => b.state === 'done');
  return {
    key,
    name,
    bookings: own.length,
    done: done.length,
    cancelled: own.length - stands.length,
    moved: own.filter((b) => b.moves > 0).length,
    moves: sum(own, (b) => b.moves),
    plannedMinutes: sum(done, (b) => b.plannedMinutes),
    actualMinutes: sum(done, (b) => b.actualMinutes),
    aheadMinutes: sum(
      stands.filter((b) => b.state !== 'done'),
      (b) => b.plannedMinutes,
    ),
    travelMinutes: sum(stands, (b) => b.travelMinutes),
    lostMinutes,
  };
}
