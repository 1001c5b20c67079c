import { subtract, unite, type Instant, type Interval } from '../../ground';
import { settleCell, type CellEntry } from './settle-cell';

/** A day as a cell of it is planned in. */
export interface DayOfCell {
  readonly span: Interval;
  readonly working: readonly Interval[];
  /** What is recorded on the day, of all cells, and time off, which has no id. */
  readonly taken: readonly (Interval & { readonly id: string | undefined })[];
  readonly now: Instant;
}

/** Time of an entry: when it begins, and whole minutes. */
export interface Placed {
  readonly startsAt: Instant;
  readonly minutes: number;
}
/** What becomes of a cell once what was typed is stored: the same whether it is only said or done. */
export interface CellPlan {
  readonly is: 'planned';
  readonly add: Placed | undefined;
  readonly change: readonly (Placed & { readonly id: string })[];
  readonly remove: readonly string[];
}
export type PlannedCell =
  | CellPlan
  /** Money was decided on, or it is approved: not less than so many minutes. */
  | { readonly is: 'frozen'; readonly least: number }
  /** The day is not so old yet. */
  | { readonly is: 'no room' };

/**
 * How a cell comes to the minutes that were typed, with the time of day of each entry that is new or grows.
 * @param own the entries of the cell
 * @param wanted whole minutes, 0 empties the cell
 */
export function planCell(own: readonly CellEntry[], wanted: number, day: DayOfCell): PlannedCell {
  const settled = settleCell(own, wanted);
  if (settled.is === 'frozen') return settled;
  const { add, change, remove } = settled.change;
  const has = own.reduce((sum, e) => sum + e.minutes, 0);
  const latest = Math.min(day.span.to, day.now);
  if (wanted > has && latest - day.span.from < wanted * 60) return { is: 'no room' };
  return {
    is: 'planned',
    add: add
      ? {
          startsAt: placeEntry({ working: day.working, recorded: day.taken, day: day.span, minutes: add, latest: latest as Instant }),
          minutes: add,
        }
      : undefined,
    change: change.map(({ id, minutes }) => ({
      id,
      minutes,
      startsAt: startOfChanged(
        own.find((e) => e.id === id)!,
        minutes,
        day,
      ),
    })),
    remove,
  };
}

/**
 * Where an entry of so many minutes that nobody gave a time begins: in the first gap of working time that is long
 * enough, else after all that is recorded, else where work begins. Not later than it can have been worked.
 * @param latest the instant it has to be over by
 */
export function placeEntry({
  working,
  recorded,
  day,
  minutes,
  latest,
}: {
  readonly working: readonly Interval[];
  readonly recorded: readonly Interval[];
  readonly day: Interval;
  readonly minutes: number;
  readonly latest: Instant;
}): Instant {
  const seconds = minutes * 60;
  const end = Math.min(day.to, latest);
  const gaps = subtract(unite(working), unite(recorded)).map((g) => ({ from: g.from, to: Math.min(g.to, end) as Instant }));
  const gap = gaps.find((g) => g.to - g.from >= seconds);
  if (gap) return gap.from;
  const after = Math.max(day.from, ...recorded.map((r) => r.to), ...working.slice(0, 1).map((w) => w.from));
  if (after + seconds <= end) return after as Instant;
  return Math.max(day.from, end - seconds) as Instant;
}

/**
 * Where an entry begins once it has so many minutes: where it began, or as much earlier as it takes not to lie over other
 * time, within working time if there is room. Where there is none at all it stays, and the day says what it lies over.
 */
function startOfChanged(entry: CellEntry, minutes: number, day: DayOfCell): Instant {
  if (minutes <= entry.minutes) return entry.startsAt;
  const own: Interval = { from: entry.startsAt, to: (entry.startsAt + entry.minutes * 60) as Instant };
  const others = unite(day.taken.filter((t) => t.id !== entry.id));
  const end = Math.min(day.span.to, day.now) as Instant;
  const free = [subtract(unite(day.working), others), subtract([day.span], others)].flatMap((gaps) =>
    gaps
      .map((g) => ({ from: g.from, to: Math.min(g.to, end) as Instant }))
      .filter((g) => g.from <= own.from && own.to <= g.to && g.to - g.from >= minutes * 60),
  );
  const latest = (free[0]?.to ?? Math.max(day.now, own.to)) - minutes * 60;
  return Math.min(entry.startsAt, latest) as Instant;
}
