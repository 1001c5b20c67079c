/** A booking that is over, as far as plan and fact go; minutes are whole. */
export interface PastBooking {
  readonly id: string;
  readonly group: string;
  readonly state: 'done' | 'cancelled' | 'planned' | 'underway';
  readonly plannedMinutes: number;
  readonly actualMinutes: number;
  readonly travelMinutes: number;
  /** How often it was moved or handed over. */
  readonly moved: number;
}

/** What was planned and what became of it, in one group. */
export interface PlanAndFact {
  readonly group: string;
  readonly bookings: number;
  readonly done: number;
  readonly cancelled: number;
  /** Of the bookings that are done. */
  readonly plannedMinutes: number;
  readonly actualMinutes: number;
  /** Done bookings that took longer than planned. */
  readonly longer: number;
  readonly travelMinutes: number;
  /** Bookings that were moved or handed over at least once. */
  readonly moved: number;
}

/** Sums past bookings by group; a cancelled booking counts in no minutes. In order of group. */
export function planAndFact(bookings: readonly PastBooking[]): PlanAndFact[] {
  const groups = new Map<string, PastBooking[]>();
  for (const b of bookings) groups.set(b.group, [...(groups.get(b.group) ?? []), b]);
  return [...groups]
    .map(([group, all]): PlanAndFact => {
      const done = all.filter((b) => b.state === 'done');
      const sum = (of: readonly PastBooking[], minutes: (b: PastBooking) => number) => of.reduce((a, b) => a + minutes(b), 0);
      return {
        group,
        bookings: all.length,
        done: done.length,
        cancelled: all.filter((b) => b.state === 'cancelled').length,
        plannedMinutes: sum(done, (b) => b.plannedMinutes),
        actualMinutes: sum(done, (b) => b.actualMinutes),
        longer: done.filter((b) => b.actualMinutes > b.plannedMinutes).length,
        travelMinutes: sum(
          all.filter((b) => b.state !== 'cancelled'),
          (b) => b.travelMinutes,
        ),
        moved: all.filter((b) => b.moved > 0).length,
      };
    })
    .sort((a, b) => (a.group < b.group ? -1 : 1));
}
