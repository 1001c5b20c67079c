import { parseMinutes, sayWorkShortly } from '@core/ground';
import { clock, type WeekRowWire, type WeekSheetWire } from '@core/time';
import { shortDay } from '../../ui/time-format';
import { keyOfCell, type KeptCell, type RowHead } from './kept-cells';

type Stored = WeekRowWire['cells'][number];
export type RowOfWeek = RowHead & Partial<Pick<WeekRowWire, 'cells'>>;

/** A cell as it is shown: what was typed where that is not stored yet, else what is stored. */
export interface GridCell {
  readonly day: string;
  readonly text: string;
  readonly minutes: number;
  readonly stored: Stored | undefined;
  readonly kept: KeptCell | undefined;
  readonly readOnly: boolean;
  /** All that stands in it is approved, and locked. */
  readonly approved: boolean;
  readonly label: string;
}
export interface GridRow {
  readonly head: RowOfWeek;
  readonly cells: readonly GridCell[];
  readonly minutes: number;
}
export interface GridDay {
  readonly day: string;
  readonly name: string;
  readonly says: string;
  readonly closed: boolean;
  readonly expected: number;
  readonly minutes: number;
  /** Of the recorded minutes, what is approved. */
  readonly approved: number;
  /** Expected and not recorded, of a day that has come. */
  readonly missing: number;
}
/** The week as it is drawn, made once for all its cells, so that a key costs nothing but its own cell. */
export interface Grid {
  readonly days: readonly GridDay[];
  readonly rows: readonly GridRow[];
  readonly minutes: number;
  readonly expected: number;
}

const WORKING_DAYS = 5;

export function makeGrid({
  sheet,
  rows,
  kept,
  today,
  seven,
}: {
  readonly sheet: WeekSheetWire;
  readonly rows: readonly RowOfWeek[];
  readonly kept: readonly KeptCell[];
  readonly today: string;
  readonly seven: boolean;
}): Grid {
  const keptBy = new Map(kept.map((k) => [keyOfCell(k), k]));
  const whole = rows.map((head): GridRow => {
    const cells = sheet.days.map((d): GridCell => {
      const stored = head.cells?.find((c) => c.day === d.day);
      const own = keptBy.get(keyOfCell({ ...head, day: d.day }));
      const minutes = own ? (parseMinutes(own.typed) ?? 0) : (stored?.minutes ?? 0);
      return {
        day: d.day,
        text: own ? own.typed : minutes ? clock(minutes) : '',
        minutes,
        stored,
        kept: own,
        readOnly: d.closed || d.day > today,
        approved: !!stored && stored.minutes > 0 && stored.approvedMinutes === stored.minutes,
        label: `${sayWorkShortly(head)}, ${head.activity}, ${shortDay(d.day)}`,
      };
    });
    return { head, cells, minutes: sum(cells.map((c) => c.minutes)) };
  });
  const days = sheet.days.map((d, n): GridDay => {
    const minutes = sum(whole.map((r) => r.cells[n]!.minutes));
    return {
      day: d.day,
      name: shortDay(d.day),
      says: d.holiday ?? (d.closed ? 'closed' : ''),
      closed: d.closed,
      expected: d.expectedMinutes,
      minutes,
      approved: sum(whole.map((r) => r.cells[n]!.stored?.approvedMinutes ?? 0)),
      missing: d.day <= today ? Math.max(0, d.expectedMinutes - minutes) : 0,
    };
  });
  const count = seven || days.slice(WORKING_DAYS).some((d) => d.expected > 0 || d.minutes > 0) ? days.length : WORKING_DAYS;
  return {
    days: days.slice(0, count),
    rows: whole.map((r) => ({ ...r, cells: r.cells.slice(0, count) })),
    minutes: sum(days.map((d) => d.minutes)),
    expected: sum(days.map((d) => d.expected)),
  };
}

function sum(values: readonly number[]): number {
  return values.reduce((total, v) => total + v, 0);
}
