import type { LocalDate } from '../../ground';
import type { Unit } from '../recurring';

/** Somebody or something on a line, as it is stored. */
export interface SeatOfLine extends Unit {
  readonly seatId: string;
  readonly lineId: string;
}

/** What is to become of seats. Dates are half open. */
export interface SeatsChange {
  readonly put: readonly {
    readonly lineId: string;
    readonly of: string;
    readonly name: string;
    readonly from: LocalDate;
    readonly to: LocalDate | null;
  }[];
  readonly end: ReadonlyMap<string, LocalDate | null>;
  readonly takeOff: ReadonlySet<string>;
}

/** Who is on a line once a change is made: what is worked out of it is what the next invoice will say. */
export function unitsAfter(lineId: string, seats: readonly SeatOfLine[], { put, end, takeOff }: SeatsChange): Unit[] {
  const stay = seats
    .filter((s) => s.lineId === lineId && !takeOff.has(s.seatId))
    .map(({ seatId, of, name, from, to }) => ({ of, name, from, to: end.has(seatId) ? end.get(seatId)! : to }));
  return [...stay, ...put.filter((p) => p.lineId === lineId).map(({ of, name, from, to }) => ({ of, name, from, to }))];
}
