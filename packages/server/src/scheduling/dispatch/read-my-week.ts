import type { MyWeekWire } from '@core/scheduling';
import { formatInstant, type Id, type Instant, type LocalDate, plusDays } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row, Rows } from '../../app/rows';
import { type HouseBook, spanOfDates } from '../../house';
import { datesShown, loggedBy, readLanes, spanWire } from './dispatch-read-model';

/** The week that a date lies in as its owner sees it, from Monday. */
export async function readMyWeek(
  db: Db,
  book: HouseBook,
  { personId, day, now }: { readonly personId: Id<'person'>; readonly day: LocalDate; readonly now: Instant },
): Promise<MyWeekWire> {
  const dates = datesShown(day, 7);
  const span = spanOfDates(book, dates[0]!, plusDays(dates[6]!, 1));
  const person: Row<'person', 'id' | 'name'> & {
    readonly grade: Rows['grade']['name'] | null;
    readonly team: Rows['team']['name'] | null;
  } = await db('person as p')
    .leftJoin('grade as g', 'g.id', 'p.grade_id')
    .leftJoin('team as t', 't.id', 'p.team_id')
    .where('p.id', personId)
    .first('p.id', 'p.name', 'g.name as grade', 't.name as team');
  const [shown, outside, logged] = await Promise.all([
    readLanes(db, book, { people: [person], dates, cancelled: false, now }),
    db('outside_appointment as a')
      .join('outside_calendar as c', 'c.id', 'a.calendar_id')
      .where('c.person_id', personId)
      .where('a.starts_at', '<', at(span.to))
      .where('a.ends_at', '>', at(span.from))
      .orderBy('a.starts_at')
      .select('a.starts_at', 'a.ends_at', 'a.summary', 'c.name'),
    loggedBy(db, [personId], span),
  ]);
  return {
    days: shown.days,
    now: formatInstant(now),
    lane: shown.lanes[0]!,
    outside: outside.map((a: Row<'outside_appointment', 'starts_at' | 'ends_at' | 'summary'> & { readonly name: string }) => ({
      ...spanWire({ from: a.starts_at, to: a.ends_at }),
      summary: a.summary,
      calendar: a.name,
    })),
    recorded: (logged.get(personId) ?? []).map(spanWire),
  };
}
