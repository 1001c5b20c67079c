import type { Id, LocalDate } from '../../ground';
import type { SeatRowWire, SeatsChangeWire } from './seats-wire';

export const SEAT_ACTS = ['put on', 'last day', 'take off'] as const;
export type SeatAct = (typeof SEAT_ACTS)[number];

export interface SeatPlan {
  readonly act: SeatAct;
  /** Null is all lines; of no meaning where they are put on one. */
  readonly lineId: Id<'contract_line'> | null;
  /** The first day of who is put on, the last of who is ended. */
  readonly day: LocalDate;
}

/**
 * What has to change for what somebody means to do with those who are chosen. Who is on the line already is not put on it
 * again; a seat that begins only after the last day is taken off; who ended before it keeps their end.
 */
export function planChange(rows: readonly Pick<SeatRowWire, 'unitId' | 'seats'>[], { act, lineId, day }: SeatPlan): SeatsChangeWire {
  const none: SeatsChangeWire = { put: [], end: [], takeOff: [] };
  const seats = rows.flatMap((r) => r.seats.filter((s) => lineId === null || s.lineId === lineId));
  if (act === 'take off') return { ...none, takeOff: seats.map((s) => s.seatId) };
  if (act === 'last day')
    return {
      ...none,
      end: seats
        .filter((s) => s.startsOn <= day && (s.lastDay === null || s.lastDay > day))
        .map((s) => ({ seatId: s.seatId, lastDay: day })),
      takeOff: seats.filter((s) => s.startsOn > day).map((s) => s.seatId),
    };
  if (lineId === null) return none;
  const free = rows.filter((r) => !r.seats.some((s) => s.lineId === lineId && (s.lastDay === null || s.lastDay >= day)));
  return { ...none, put: free.map((r) => ({ unitId: r.unitId, lineId, startsOn: day, lastDay: null })) };
}

export function isNothing({ put, end, takeOff }: SeatsChangeWire): boolean {
  return put.length + end.length + takeOff.length === 0;
}
