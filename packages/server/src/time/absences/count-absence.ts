import { awayDuring, countDays, type DaysOff } from '@core/time';
import { type Id, type Interval, type LocalDate, plusDays } from '@core/ground';
import type { Db } from '../../app/database';
import { type HouseBook, readWork, spanOfDates } from '../../house';

export interface CountedAbsence extends Interval {
  /** Halves of working days by date. */
  readonly days: ReadonlyMap<LocalDate, number>;
  readonly halves: number;
}

/** What days off take of somebody's working pattern as it stands, and from when to when they are away. */
export async function countAbsence(
  db: Db,
  book: HouseBook,
  { personId, off }: { readonly personId: Id<'person'>; readonly off: DaysOff },
): Promise<CountedAbsence> {
  const work = (await readWork(db, book, { personIds: [personId], dates: [off.from, plusDays(off.to, 1)] })).get(personId);
  const dayOf = (date: LocalDate) => {
    const span = spanOfDates(book, date, plusDays(date, 1));
    return { ...span, working: (work?.working ?? []).filter((w) => w.from < span.to && span.from < w.to) };
  };
  const days = countDays(off, (date) => dayOf(date).working.length > 0);
  return { ...awayDuring(off, dayOf), days, halves: [...days.values()].reduce((sum, n) => sum + n, 0) };
}
