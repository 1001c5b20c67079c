import { type Instant, plusSeconds, type TimeBand, type WeeklyCalendar } from '../../ground';
import { splitByBand } from '../../time';

/** What hours are gathered by. */
export const HOURS_BY = ['technician', 'client', 'activity', 'time band'] as const;
export type TimeReportBy = (typeof HOURS_BY)[number];
type Named = Exclude<TimeReportBy, 'time band'>;

/** Recorded time as it stands, with its corrections in it. */
export interface WorkedTime {
  readonly id: string;
  readonly key: Readonly<Record<Named, string>>;
  readonly name: Readonly<Record<Named, string>>;
  readonly from: Instant;
  /** Whole; 0 where a correction took all of it away. */
  readonly minutes: number;
  /** Charged to a client by time: billable, and not internal or for a flat fee. */
  readonly billable: boolean;
}
/** The part of an entry that lies in one row. */
export interface TimeReportPart {
  readonly entry: WorkedTime;
  readonly key: string;
  readonly name: string;
  readonly minutes: number;
}
export interface TimeReportRow {
  readonly key: string;
  readonly name: string;
  readonly minutes: number;
  readonly billableMinutes: number;
}

/** Each entry's part in a row; by time band an entry has one for each band it lies in. Parts add up to their entry's minutes. */
export function partsOf(entries: readonly WorkedTime[], by: TimeReportBy, calendar: WeeklyCalendar): TimeReportPart[] {
  if (by !== 'time band') return entries.map((entry) => ({ entry, key: entry.key[by], name: entry.name[by], minutes: entry.minutes }));
  return entries.flatMap((entry) =>
    [...minutesByBand(entry, calendar)].map(([band, minutes]): TimeReportPart => ({ entry, key: band, name: band, minutes })),
  );
}

function minutesByBand({ from, minutes }: WorkedTime, calendar: WeeklyCalendar): Map<TimeBand, number> {
  const found = new Map<TimeBand, number>();
  // Cut at each border by the minutes gone by until there, so that parts always add up.
  let gone = 0;
  for (const { to, band } of splitByBand(calendar, from, plusSeconds(from, minutes * 60))) {
    const until = Math.round((to - from) / 60);
    found.set(band, (found.get(band) ?? 0) + until - gone);
    gone = until;
  }
  return found;
}

/** Rows of the parts, the most hours first. */
export function gatherTime(parts: readonly TimeReportPart[]): TimeReportRow[] {
  const rows = new Map<string, { key: string; name: string; minutes: number; billableMinutes: number }>();
  for (const { key, name, minutes, entry } of parts) {
    const row = rows.get(key) ?? { key, name, minutes: 0, billableMinutes: 0 };
    row.minutes += minutes;
    row.billableMinutes += entry.billable ? minutes : 0;
    rows.set(key, row);
  }
  return [...rows.values()].sort((a, b) => b.minutes - a.minutes || a.name.localeCompare(b.name));
}

/** A share in whole percent, cut; undefined of nothing. */
export function shareOf(part: number, whole: number): number | undefined {
  return whole > 0 ? Math.trunc((part * 100) / whole) : undefined;
}
