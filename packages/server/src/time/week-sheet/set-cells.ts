import { formatInstant, formatMinutes, isRefusal, type Outcome, refuse } from '@core/ground';
import type { TypedCell } from '@core/time';
import type { Work } from '../../app/work';
import { readMeantWork } from '../../ground';
import type { HouseBook } from '../../house';
import { addEntry, editEntry, removeEntry } from '../time-entries/record-time';
import { formOf, saidOf } from './cell-said';
import { entriesOf, planTyped, readOpenDay, wantedMinutes } from './plan-typed';
import type { WeekEntry } from './read-week-sheet';

/** Brings cells to what was typed into them, by as few changes of entries as that takes; all of them or none. */
export async function setCells(work: Work, book: HouseBook, cells: readonly TypedCell[]): Promise<Outcome<{ changed: number }>> {
  let changed = 0;
  for (const [n, cell] of cells.entries()) {
    const done = await setCell(work, book, { cell, place: `cells[${n}]` });
    if (isRefusal(done)) return { ...done, fields: { [`cells[${n}]`]: Object.values(done.fields ?? {})[0] ?? done.detail } };
    changed += done;
  }
  return { changed };
}

/** @returns how many entries were added, changed or removed */
async function setCell(
  work: Work,
  book: HouseBook,
  { cell, place }: { readonly cell: TypedCell; readonly place: string },
): Promise<Outcome<number>> {
  const day = await readOpenDay(work.tx, book, { personId: work.actor.personId!, date: cell.day, now: work.now });
  const own = entriesOf(cell, day);
  const stands = own.reduce((sum, e) => sum + e.minutes, 0);
  // Sent a second time because the first answer was lost: it stands as it is meant to.
  if (stands !== cell.was && stands !== wantedMinutes(cell))
    return refuse('changed-meanwhile', `On ${cell.day} there are ${formatMinutes(stands)} meanwhile, and not ${formatMinutes(cell.was)}.`, {
      [place]: `${stands} meanwhile`,
    });
  const plan = planTyped(cell, day);
  if (isRefusal(plan)) return plan;
  const { add, change, remove } = plan;
  for (const id of remove) {
    const done = await removeEntry(work, book, { entryId: id, version: own.find((e) => e.id === id)!.version });
    if (isRefusal(done)) return done;
  }
  for (const { id, startsAt, minutes } of change) {
    const entry = own.find((e) => e.id === id)!;
    const form = {
      ...formOf(entry),
      startsAt: formatInstant(startsAt),
      duration: String(minutes),
      ...saidOf(cell, entry.row['work_kind'], entry),
    };
    const done = await editEntry(work, book, { entry, form });
    if (isRefusal(done)) return done;
  }
  if (add) {
    const facts = await readMeantWork(work.tx, cell.workId);
    if (isRefusal(facts)) return facts;
    const { workId, activityId } = cell;
    const form = { workId, activityId, startsAt: formatInstant(add.startsAt), duration: String(add.minutes) };
    const done = await addEntry(work, book, { ...form, ...saidOf(cell, facts.kind) });
    if (isRefusal(done)) return done;
  }
  const touched = remove.length + change.length + (add ? 1 : 0);
  const noted = touched ? 0 : await sayAlone(work, book, { cell, own });
  return isRefusal(noted) ? noted : touched + noted;
}

/** What is said where no minutes change goes to the last entry that can be changed. */
async function sayAlone(
  work: Work,
  book: HouseBook,
  { cell, own }: { readonly cell: TypedCell; readonly own: readonly WeekEntry[] },
): Promise<Outcome<number>> {
  const last = own.filter((e) => !e.frozen).at(-1);
  if (!last) return 0;
  const said = Object.entries(saidOf(cell, last.row['work_kind'], last));
  if (said.every(([name, value]) => value === last[name as keyof WeekEntry])) return 0;
  const done = await editEntry(work, book, { entry: last, form: { ...formOf(last), ...saidOf(cell, last.row['work_kind'], last) } });
  return isRefusal(done) ? done : 1;
}
