import { isComplete, type TeamWeekWire } from '@core/team-week';
import { dateOf, plusDays, secondsIn, subtract, unite, type Instant, type LocalDate } from '@core/time';
import { at, type Columns, type Db } from '../app/database';
import { datesShown, readTechnicians } from '../dispatch/dispatch-read-model';
import type { HouseBook } from '../house/house-book';
import { readWork, spanOfDates } from '../people/read-work';

/** The week that a date lies in, Monday first, of everybody who records time. */
export async function readTeamWeek(db: Db, book: HouseBook, day: LocalDate, now: Instant): Promise<TeamWeekWire> {
  const dates = datesShown(day, 7);
  const ends = [dates[0]!, plusDays(dates[6]!, 1)] as const;
  const span = spanOfDates(book, ...ends);
  const today = dateOf(now, book.house.zone);
  const people = await readTechnicians(db, []);
  const ids = people.map((p) => p['id'] as string);
  const [work, entries, closed, complete] = [
    await readWork(db, book, ids, ends),
    (await db('time_entry')
      .whereIn('person_id', ids)
      .whereNull('removed_at')
      .where('starts_at', '>=', at(span.from))
      .where('starts_at', '<', at(span.to))
      .select('person_id', 'starts_at', 'minutes')) as Columns[],
    (await db('day_closed').whereIn('person_id', ids).whereIn('day', dates).select('person_id', 'day')) as Columns[],
    new Map<string, LocalDate>((await db('time_complete').whereIn('person_id', ids)).map((c) => [c.person_id, c.up_to])),
  ];
  return {
    days: dates,
    people: people.map((p) => {
      const id = p['id'] as string;
      const upTo = complete.get(id) ?? null;
      const own = entries.filter((e) => e['person_id'] === id);
      const { working, away } = work.get(id)!;
      const days = dates.map((date) => {
        const whole = spanOfDates(book, date, plusDays(date, 1));
        const expected = subtract(unite(working.filter((w) => w.from < whole.to && whole.from < w.to)), unite(away));
        return {
          day: date,
          expectedMinutes: Math.floor(secondsIn(expected) / 60),
          recordedMinutes: own.filter((e) => dateOf(e['starts_at'], book.house.zone) === date).reduce((sum, e) => sum + e['minutes'], 0),
          closed: (upTo !== null && date <= upTo) || closed.some((c) => c['person_id'] === id && c['day'] === date),
          ahead: date > today,
        };
      });
      return { id, name: p['name'], team: p['team'], completeUpTo: upTo, complete: isComplete(days, upTo, today), days };
    }),
  };
}
