import { dateOf, formatMinutes, plusDays, type Instant, type LocalDate } from '@core/ground';
import { type SuggestedRowWire, usualActivity } from '@core/time';
import { at, type Db } from '../../app/database';
import type { Joined, Row, Rows } from '../../app/rows';
import { readUsualActivities } from '../../desk';
import { namedWork } from '../../ground';
import { type HouseBook, spanOfDates } from '../../house';
import { datesShown } from '../../scheduling';
import { readWeekEntries, rowHead, rowKey, type WeekEntry } from './read-week-sheet';

const HABIT_WEEKS = 4;
const HABIT_LEAST = 3;

/** Rows that are not in a week yet and may be needed: what is booked in it, what the week before had, what most weeks have. */
export async function suggestRows(
  db: Db,
  book: HouseBook,
  { personId, day, now }: { readonly personId: string; readonly day: LocalDate; readonly now: Instant },
): Promise<SuggestedRowWire[]> {
  const dates = datesShown(day, 7);
  const first = dates[0]!;
  const earlier = await readWeekEntries(db, book, { personId, ends: [plusDays(first, -7 * HABIT_WEEKS), first] });
  const there = new Set((await readWeekEntries(db, book, { personId, ends: [first, plusDays(first, 7)] })).map(rowKey));
  const found = [
    ...(await bookedRows(db, book, { personId, dates, now })),
    ...lastWeekRows(earlier, dates),
    ...habitRows({ earlier, dates, now, book }),
  ];
  const rows = new Map<string, SuggestedRowWire>();
  for (const row of found) if (!there.has(rowKey(row)) && !rows.has(rowKey(row))) rows.set(rowKey(row), row);
  return [...rows.values()];
}

async function bookedRows(
  db: Db,
  book: HouseBook,
  { personId, dates, now }: { readonly personId: string; readonly dates: readonly LocalDate[]; readonly now: Instant },
): Promise<SuggestedRowWire[]> {
  const span = spanOfDates(book, dates[0]!, plusDays(dates[6]!, 1));
  const bookings: (Row<'booking'> &
    Row<'work_facts', 'number' | 'subject' | 'ticket_kind'> &
    Joined<'desk', 'usual_activity_id'> & { readonly client: Rows['client']['name'] | null })[] = await db('booking as b')
    .join('work_facts as w', 'w.id', 'b.work_id')
    .leftJoin('client as c', 'c.id', 'w.client_id')
    .leftJoin('desk as d', 'd.id', 'w.desk_id')
    .where({ 'b.person_id': personId, 'b.tentative': false })
    .whereNot('b.state', 'cancelled')
    .where('b.starts_at', '>=', at(span.from))
    .where('b.starts_at', '<', at(span.to))
    .orderBy('b.starts_at')
    .select('b.*', 'w.number', 'w.subject', 'w.ticket_kind', 'c.name as client', 'd.usual_activity_id');
  const mine = await readUsualActivities(db, personId, now);
  return [...new Set(bookings.map((b) => b.work_id))].map((workId) => {
    const own = bookings.filter((b) => b.work_id === workId);
    const activityId = usualActivity({
      onSite: own.some((b) => b.on_site),
      allowed: own[0]!.ticket_kind ? book.activitiesOf(own[0]!.ticket_kind) : [],
      deskUsual: own[0]!.usual_activity_id,
      own: mine,
    });
    const worked = own.filter((b) => b.starts_at < now);
    return {
      ...namedWork(own[0]!),
      client: own[0]!.client,
      activityId,
      activity: book.activity(activityId)!.name,
      from: 'booked',
      says: own.length === 1 ? 'booked once this week' : `booked ${own.length} times this week`,
      minutes: dates.map((day) =>
        worked
          .filter((b) => dateOf(b.starts_at, book.house.zone) === day)
          .reduce((sum, b) => sum + Math.round((b.ends_at - b.starts_at) / 60), 0),
      ),
      note: null,
    };
  });
}

function lastWeekRows(earlier: readonly WeekEntry[], dates: readonly LocalDate[]): SuggestedRowWire[] {
  const before = dates.map((d) => plusDays(d, -7));
  const own = earlier.filter((e) => e.day >= before[0]! && !e.row.ended);
  return [...new Set(own.map(rowKey))].map((key) => {
    const row = own.filter((e) => rowKey(e) === key);
    const total = row.reduce((sum, e) => sum + e.minutes, 0);
    return {
      ...rowHead(row[0]!),
      from: 'last week',
      says: `${formatMinutes(total)} the week before`,
      minutes: before.map((day) => row.filter((e) => e.day === day).reduce((sum, e) => sum + e.minutes, 0)),
      note: row.at(-1)!.note,
    };
  });
}

/** What at least three of the last four weeks had, with the middle of what each weekday had. */
function habitRows({
  earlier,
  dates,
  now,
  book,
}: {
  readonly earlier: readonly WeekEntry[];
  readonly dates: readonly LocalDate[];
  readonly now: Instant;
  readonly book: HouseBook;
}): SuggestedRowWire[] {
  const today = dateOf(now, book.house.zone);
  const weeks = Array.from({ length: HABIT_WEEKS }, (_, n) => plusDays(dates[0]!, -7 * (n + 1)));
  return [...new Set(earlier.map(rowKey))].flatMap((key): SuggestedRowWire[] => {
    const row = earlier.filter((e) => rowKey(e) === key);
    const had = weeks.filter((monday) => row.some((e) => e.day >= monday && e.day < plusDays(monday, 7)));
    if (had.length < HABIT_LEAST || row[0]!.row.ended) return [];
    return [
      {
        ...rowHead(row[0]!),
        from: 'habit',
        says: `in ${had.length} of the last ${HABIT_WEEKS} weeks`,
        minutes: dates.map((day, n) =>
          day > today ? 0 : middle(had.map((m) => row.filter((e) => e.day === plusDays(m, n)).reduce((s, e) => s + e.minutes, 0))),
        ),
        note: row.at(-1)!.note,
      },
    ];
  });
}

function middle(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[Math.floor((values.length - 1) / 2)] ?? 0;
}
