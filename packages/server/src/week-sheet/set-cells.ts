import { isRefusal, refuse, type Outcome } from '@core/outcome';
import { formatInstant, formatMinutes, parseLocalDate, parseMinutes, plusDays, type Instant, type Interval } from '@core/time';
import { placeEntry, settleCell, type TypedCell } from '@core/week-sheet';
import type { Work } from '../app/work';
import type { HouseBook } from '../house/house-book';
import { readWork, spanOfDates } from '../people/read-work';
import { addEntry, editEntry, removeEntry } from '../time-entries/record-time';
import { readWeekEntries, rowKey, type WeekEntry } from './read-week-sheet';

/** Brings cells to what was typed into them, by as few changes of entries as that takes; all of them or none. */
export async function setCells(work: Work, book: HouseBook, cells: readonly TypedCell[]): Promise<Outcome<{ changed: number }>> {
  let changed = 0;
  for (const [n, cell] of cells.entries()) {
    const done = await setCell(work, book, cell, `cells[${n}]`);
    if (isRefusal(done)) return { ...done, fields: { [`cells[${n}]`]: Object.values(done.fields ?? {})[0] ?? done.detail } };
    changed += done;
  }
  return { changed };
}

/** @returns how many entries were added, changed or removed */
async function setCell(work: Work, book: HouseBook, cell: TypedCell, place: string): Promise<Outcome<number>> {
  const day = parseLocalDate(cell.day);
  const all = await readWeekEntries(work.tx, book, work.actor.personId!, [day, plusDays(day, 1)]);
  const own = all.filter((e) => rowKey(e) === rowKey(cell));
  const stands = own.reduce((sum, e) => sum + e.minutes, 0);
  const wanted = cell.typed === '' ? 0 : parseMinutes(cell.typed)!;
  // Sent a second time because the first answer was lost: it stands as it is meant to.
  if (stands !== cell.was && stands !== wanted)
    return refuse('changed-meanwhile', `On ${cell.day} there are ${formatMinutes(stands)} meanwhile, and not ${formatMinutes(cell.was)}.`, {
      [place]: `${stands} meanwhile`,
    });
  const settled = settleCell(own, wanted);
  if (settled.is === 'frozen')
    return refuse(
      'not-possible-now',
      `${formatMinutes(settled.least)} of ${cell.day} are decided on in money already; not less than that.`,
    );
  const { add, change, remove } = settled.change;
  for (const id of remove) {
    const done = await removeEntry(work, book, id, own.find((e) => e.id === id)!.version);
    if (isRefusal(done)) return done;
  }
  for (const { id, minutes } of change) {
    const entry = own.find((e) => e.id === id)!;
    const done = await editEntry(work, book, entry, { ...formOf(entry), duration: String(minutes), ...saidOf(cell, entry) });
    if (isRefusal(done)) return done;
  }
  if (add) {
    const done = await addNew(work, book, cell, add, all);
    if (isRefusal(done)) return done;
  }
  const noted = await noteAlone(work, book, cell, own, [...remove, ...change.map((c) => c.id)], add);
  return isRefusal(noted) ? noted : remove.length + change.length + (add ? 1 : 0) + noted;
}

/** Notes and a distance that were typed where no minutes change go to the last entry that can be changed. */
async function noteAlone(
  work: Work,
  book: HouseBook,
  cell: TypedCell,
  own: readonly WeekEntry[],
  touched: readonly string[],
  added: number,
): Promise<Outcome<number>> {
  if (touched.length || added) return 0;
  const last = own.filter((e) => !e.frozen).at(-1);
  if (!last) return 0;
  const said = saidOf(cell, last);
  if (said.note === last.note && said.insideNote === last.insideNote && said.distance === last.distance) return 0;
  const done = await editEntry(work, book, last, { ...formOf(last), ...said });
  return isRefusal(done) ? done : 1;
}

async function addNew(work: Work, book: HouseBook, cell: TypedCell, minutes: number, all: readonly WeekEntry[]): Promise<Outcome<unknown>> {
  const day = parseLocalDate(cell.day);
  const span = spanOfDates(book, day, plusDays(day, 1));
  const { working, away } = (await readWork(work.tx, book, [work.actor.personId!], [day, plusDays(day, 1)])).get(work.actor.personId!)!;
  if (span.from > work.now) return refuse('invalid', `${cell.day} is still to come; time is recorded once it is worked.`);
  const recorded: Interval[] = [...all.map((e) => ({ from: e.startsAt, to: e.endsAt })), ...away];
  const latest = Math.min(span.to, work.now) as Instant;
  if (latest - span.from < minutes * 60) return refuse('invalid', `${formatMinutes(minutes)} do not fit into ${cell.day} so far.`);
  return addEntry(work, book, {
    ticketId: cell.ticketId,
    startsAt: formatInstant(placeEntry(working, recorded, span, minutes, latest)),
    duration: String(minutes),
    activityId: cell.activityId,
    note: cell.note ?? null,
    insideNote: cell.insideNote ?? null,
    distance: cell.distance ?? null,
    ...(cell.internalId ? { internalId: cell.internalId, billable: false, reason: 'internal' } : { billable: true, reason: null }),
  });
}

/** What the cell says of an entry; what it leaves out stays. */
function saidOf(cell: TypedCell, entry: WeekEntry) {
  const of = <T>(typed: T | undefined, stands: T): T => (typed === undefined ? stands : typed || (null as T));
  return {
    note: of(cell.note, entry.note),
    insideNote: of(cell.insideNote, entry.insideNote),
    distance: of(cell.distance, entry.distance),
  };
}

function formOf(e: WeekEntry) {
  return {
    ticketId: e.ticketId,
    internalId: e.internalId,
    startsAt: formatInstant(e.startsAt),
    duration: String(e.minutes),
    activityId: e.activityId,
    note: e.note,
    billable: e.billable,
    reason: e.reason,
  };
}
