import { formatMinutes, type Id, type Instant, type Outcome, parseLocalDate, parseMinutes, plusDays, refuse } from '@core/ground';
import { planCell, type CellPlan, type DayOfCell, type TypedCell } from '@core/time';
import type { Db } from '../../app/database';
import { type HouseBook, readWork, spanOfDates } from '../../house';
import { readWeekEntries, rowKey, type WeekEntry } from './read-week-sheet';

/** A day of somebody's, as cells are planned in it. */
export interface OpenDay extends DayOfCell {
  readonly entries: readonly WeekEntry[];
}

export async function readOpenDay(
  db: Db,
  book: HouseBook,
  { personId, date, now }: { readonly personId: Id<'person'>; readonly date: string; readonly now: Instant },
): Promise<OpenDay> {
  const ends = [parseLocalDate(date), plusDays(parseLocalDate(date), 1)] as const;
  const entries = await readWeekEntries(db, book, { personId, ends });
  const { working, away } = (await readWork(db, book, { personIds: [personId], dates: ends })).get(personId)!;
  return {
    entries,
    span: spanOfDates(book, ...ends),
    working,
    taken: [
      ...entries.map((e) => ({ id: e.id, from: e.startsAt, to: e.endsAt })),
      ...away.map(({ from, to }) => ({ from, to, id: undefined })),
    ],
    now,
  };
}

/** The entries of a cell, in order of time. */
export function entriesOf(cell: TypedCell, day: OpenDay): WeekEntry[] {
  return day.entries.filter((e) => rowKey(e) === rowKey(cell));
}

/** Whole minutes, 0 where the cell is emptied. */
export const wantedMinutes = (cell: TypedCell): number => (cell.typed === '' ? 0 : parseMinutes(cell.typed)!);

/** How a cell comes to what was typed, or why it cannot. */
export function planTyped(cell: TypedCell, day: OpenDay): Outcome<CellPlan> {
  const wanted = wantedMinutes(cell);
  if (wanted && day.span.from > day.now) return refuse('invalid', `${cell.day} is still to come; time is recorded once it is worked.`);
  const plan = planCell(entriesOf(cell, day), wanted, day);
  switch (plan.is) {
    case 'planned':
      return plan;
    case 'frozen':
      return refuse('not-possible-now', `${formatMinutes(plan.least)} of ${cell.day} are decided on in money already; not less than that.`);
    case 'no room':
      return refuse('invalid', `${formatMinutes(wanted)} do not fit into ${cell.day} so far.`);
  }
}

/** The day with the plan carried out, for what is typed after it; an entry that is new is nobody's yet. */
export function afterPlan(day: OpenDay, { add, change, remove }: CellPlan): OpenDay {
  const changed = new Set([...remove, ...change.map((c) => c.id)]);
  const placed = [...change, ...(add ? [{ ...add, id: undefined }] : [])];
  return {
    ...day,
    taken: [
      ...day.taken.filter((t) => !t.id || !changed.has(t.id)),
      ...placed.map(({ id, startsAt, minutes }) => ({ id, from: startsAt, to: (startsAt + minutes * 60) as Instant })),
    ],
  };
}
