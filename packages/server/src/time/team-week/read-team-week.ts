import { isComplete, markOdd, type TeamWeekWire } from '@core/time';
import { dateOf, plusDays, type Instant, type LocalDate } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { expectedMinutes, type HouseBook, readWork, spanOfDates } from '../../house';
import { datesShown, readTechnicians } from '../../scheduling';

/** The week that a date lies in, Monday first, of everybody who records time. */
export async function readTeamWeek(
  db: Db,
  book: HouseBook,
  { day, now }: { readonly day: LocalDate; readonly now: Instant },
): Promise<TeamWeekWire> {
  const dates = datesShown(day, 7);
  const ends = [dates[0]!, plusDays(dates[6]!, 1)] as const;
  const today = dateOf(now, book.house.zone);
  const people = await readTechnicians(db, []);
  const ids = people.map((p) => p.id);
  const [work, entries, expenses, closed, complete] = [
    await readWork(db, book, { personIds: ids, dates: ends }),
    await readEntries(db, book, { ids, ends }),
    (await db('expense').whereIn('person_id', ids).whereNull('removed_at').whereIn('day', dates).select('person_id', 'approval')) as Row<
      'expense',
      'person_id' | 'approval'
    >[],
    (await db('day_closed').whereIn('person_id', ids).whereIn('day', dates).select('person_id', 'day')) as Row<
      'day_closed',
      'person_id' | 'day'
    >[],
    new Map<string, LocalDate>((await db('time_complete').whereIn('person_id', ids)).map((c) => [c.person_id, c.up_to])),
  ];
  return {
    days: dates,
    people: people.map((p) => {
      const id = p.id;
      const upTo = complete.get(id) ?? null;
      const own = entries.filter((e) => e.person_id === id);
      const spent = expenses.filter((x) => x.person_id === id);
      const days = dates.map((date) => ({
        day: date,
        expectedMinutes: expectedMinutes(book, work.get(id)!, date),
        recordedMinutes: sum(own.filter((e) => dateOf(e.starts_at, book.house.zone) === date)),
        closed: (upTo !== null && date <= upTo) || closed.some((c) => c.person_id === id && c.day === date),
        ahead: date > today,
      }));
      const states = [...own, ...spent].map((row) => row.approval as string);
      return {
        id,
        name: p.name,
        team: p.team,
        completeUpTo: upTo,
        complete: isComplete(days, upTo, today),
        waiting: states.filter((s) => s === 'open').length,
        odd: countOdd(book, own),
        returned: states.filter((s) => s === 'returned').length,
        approvedMinutes: sum(own.filter((e) => e.approval === 'approved')),
        days,
      };
    }),
  };
}

type WeekEntry = Row<
  'time_entry',
  'id' | 'person_id' | 'starts_at' | 'ends_at' | 'minutes' | 'note' | 'inside_note' | 'approval' | 'corrects'
> &
  Row<'work_facts', 'closed_at'>;

function readEntries(
  db: Db,
  book: HouseBook,
  { ids, ends }: { readonly ids: readonly string[]; readonly ends: readonly [LocalDate, LocalDate] },
): Promise<WeekEntry[]> {
  const span = spanOfDates(book, ...ends);
  return db('time_entry as e')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .whereIn('e.person_id', ids)
    .whereNull('e.removed_at')
    .where('e.starts_at', '>=', at(span.from))
    .where('e.starts_at', '<', at(span.to))
    .select(
      'e.id',
      'e.person_id',
      'e.starts_at',
      'e.ends_at',
      'e.minutes',
      'e.note',
      'e.inside_note',
      'e.approval',
      'e.corrects',
      'w.closed_at',
    ) as never;
}

/** How many of the entries that wait have anything odd about them. */
function countOdd(book: HouseBook, own: readonly WeekEntry[]): number {
  const judged = own.filter((e) => e.corrects === null);
  const odd = markOdd(
    judged.map((e) => ({
      id: e.id,
      from: e.starts_at,
      to: e.ends_at,
      note: e.note ?? e.inside_note,
      closedAt: e.closed_at,
    })),
    { calendar: book.house.calendar, longMinutes: book.house.time.longMinutes },
  );
  return judged.filter((e) => e.approval === 'open' && odd.get(e.id)!.length > 0).length;
}

function sum(entries: readonly Row<'time_entry', 'minutes'>[]): number {
  return entries.reduce((total, e) => total + e.minutes, 0);
}
