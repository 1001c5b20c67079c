import type { Measure } from '../../contracts';
import type { LocalDate } from '../../ground';

/** What was granted at one time, drawn on from its first day to the day before its expiry. */
export interface GrantedLot {
  readonly from: LocalDate;
  readonly expiry: LocalDate | null;
  readonly granted: number;
}
/** What was taken of a lot on a day. */
export interface DrawnOfLot {
  readonly on: LocalDate;
  readonly lot: LocalDate;
  readonly units: number;
}

export interface UsedAllowance {
  readonly name: string;
  readonly measure: Measure;
  /** What could be drawn on in the span: grants of it, and what was left before it and still could. */
  readonly granted: number;
  readonly used: number;
  /** What can still be drawn on when the span ends. */
  readonly left: number;
}
export interface UsedContract {
  readonly number: number;
  readonly name: string;
  readonly allowances: readonly UsedAllowance[];
}

/**
 * What was granted of an allowance for a span, used in it, and left at its end. What was left of a lot that expires within the
 * span was granted and is not left.
 * @param to the last day
 */
export function usedIn(
  { lots, draws }: { readonly lots: readonly GrantedLot[]; readonly draws: readonly DrawnOfLot[] },
  { from, to }: { readonly from: LocalDate; readonly to: LocalDate },
): Pick<UsedAllowance, 'granted' | 'used' | 'left'> {
  const open = lots.filter((l) => l.from <= to && (l.expiry === null || l.expiry > from));
  const drawn = (of: readonly GrantedLot[], when: (on: LocalDate) => boolean) =>
    draws.filter((d) => when(d.on) && of.some((l) => l.from === d.lot)).reduce((sum, d) => sum + d.units, 0);
  const granted = open.reduce((sum, l) => sum + l.granted, 0) - drawn(open, (on) => on < from);
  const stays = open.filter((l) => l.expiry === null || l.expiry > to);
  return {
    granted,
    // Also what was borrowed of a period that begins after it.
    used: draws.filter((d) => d.on >= from && d.on <= to).reduce((sum, d) => sum + d.units, 0),
    left: stays.reduce((sum, l) => sum + l.granted, 0) - drawn(stays, (on) => on <= to),
  };
}
