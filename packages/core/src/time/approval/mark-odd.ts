import { formatMinutes, type Instant, type WeeklyCalendar } from '../../ground';
import { splitByBand } from '../time-entries';

/** What makes a manager look twice at recorded time. */
export const ODD_MARKS = ['long', 'overlapping', 'no note', 'out of hours', 'on closed work'] as const;
export type OddMark = (typeof ODD_MARKS)[number];

/** Time as it is judged: half open, in order of its start. */
export interface JudgedEntry {
  readonly id: string;
  readonly from: Instant;
  readonly to: Instant;
  readonly note: string | null;
  /** When the ticket it is on was closed; null where it is open, or there is none. */
  readonly closedAt: Instant | null;
}
export interface OddRules {
  /** The provider's: what lies outside its hours is out of hours. */
  readonly calendar: WeeklyCalendar;
  /** An entry of more minutes is long. */
  readonly longMinutes: number;
}
export interface Odd {
  readonly mark: OddMark;
  /** With its numbers, for people. */
  readonly says: string;
}

/** What counts as long, in approval and in charge review alike. */
export function isLong(minutes: number, longMinutes: number): boolean {
  return minutes > longMinutes;
}

const length = (from: Instant, to: Instant) => Math.round((to - from) / 60);

/** What is odd about one person's entries; an entry with nothing odd has an empty list. */
export function markOdd(entries: readonly JudgedEntry[], rules: OddRules): Map<string, Odd[]> {
  const crossing = crossings(entries);
  return new Map(entries.map((entry) => [entry.id, oddOf(entry, crossing.get(entry.id) ?? 0, rules)]));
}

function oddOf(entry: JudgedEntry, crossing: number, { calendar, longMinutes }: OddRules): Odd[] {
  const minutes = length(entry.from, entry.to);
  const outside = splitByBand(calendar, entry.from, entry.to)
    .filter((s) => s.band !== 'working hours')
    .reduce((sum, s) => sum + length(s.from, s.to), 0);
  const odd: [boolean, OddMark, string][] = [
    [isLong(minutes, longMinutes), 'long', `${formatMinutes(minutes)} in one piece, more than ${formatMinutes(longMinutes)}`],
    [crossing > 0, 'overlapping', `${formatMinutes(crossing)} lie over other time`],
    [!entry.note?.trim(), 'no note', 'no note says what was done'],
    [outside > 0, 'out of hours', `${formatMinutes(outside)} out of hours`],
    [entry.closedAt !== null && entry.closedAt < entry.to, 'on closed work', 'the ticket was closed before this ended'],
  ];
  return odd.filter(([is]) => is).map(([, mark, says]) => ({ mark, says }));
}

/** Minutes of each entry that others lie over, counted once. */
function crossings(entries: readonly JudgedEntry[]): Map<string, number> {
  const order = [...entries].sort((a, b) => a.from - b.from);
  const found = new Map<string, number>();
  for (const [i, entry] of order.entries()) {
    let covered = 0;
    let reached = entry.from as number;
    for (const [j, other] of order.entries()) {
      if (j !== i && other.from >= entry.to) break;
      if (j === i || other.to <= reached) continue;
      const from = Math.max(other.from, reached);
      const to = Math.min(other.to, entry.to);
      if (to > from) covered += to - from;
      reached = Math.max(reached, Math.min(other.to, entry.to));
    }
    if (covered) found.set(entry.id, Math.round(covered / 60));
  }
  return found;
}
