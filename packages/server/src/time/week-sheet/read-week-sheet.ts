import { dateOf, type Id, type Instant, type LocalDate, plusDays } from '@core/ground';
import type { WeekRowWire, WeekSheetWire } from '@core/time';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import { namedWork } from '../../ground';
import { expectedMinutes, type HouseBook, readWork, spanOfDates } from '../../house';
import { datesShown } from '../../scheduling';
import { readClosedDays } from '../time-entries/close-days';
import { REMARK } from '../time-entries/day-sheet-read-model';

/** An entry as the week needs it; its date is that of its start. */
export interface WeekEntry {
  readonly id: string;
  readonly version: number;
  readonly day: LocalDate;
  readonly workId: Id<'work'>;
  readonly activityId: Id<'activity'>;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly minutes: number;
  readonly note: string | null;
  readonly insideNote: string | null;
  readonly distance: string | null;
  readonly billable: boolean;
  readonly reason: string | null;
  readonly frozen: boolean;
  readonly row: WeekRow;
}

/** An entry with its activity, work and client; `frozen` where money was decided on. */
export type WeekRow = Row<'time_entry'> &
  Row<'work_facts', 'number' | 'subject' | 'ended' | 'ticket_kind'> & {
    readonly activity: string;
    readonly client: string | null;
    readonly remark: string | null;
    readonly frozen: boolean;
  };

/** What somebody recorded on dates from the first up to but not including `to`, in order of time. */
export async function readWeekEntries(
  db: Db,
  book: HouseBook,
  { personId, ends: [from, to] }: { readonly personId: Id<'person'>; readonly ends: readonly [LocalDate, LocalDate] },
): Promise<WeekEntry[]> {
  const span = spanOfDates(book, from, to);
  const rows: WeekRow[] = await db('time_entry as e')
    .join('activity as a', 'a.id', 'e.activity_id')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .leftJoin('client as c', 'c.id', 'e.client_id')
    .where({ 'e.person_id': personId })
    .whereNull('e.removed_at')
    .where('e.starts_at', '>=', at(span.from))
    .where('e.starts_at', '<', at(span.to))
    .orderBy(['e.starts_at', 'e.id'])
    .select(
      'e.*',
      'a.name as activity',
      'w.number',
      'w.subject',
      'w.ended',
      'w.ticket_kind',
      'c.name as client',
      db.raw(REMARK),
      db.raw(
        `exists (select 1 from charge ch where (ch.time_entry_id = e.id or ch.shared_from = e.id) and ch.state in ('approved', 'waived')) as frozen`,
      ),
    );
  return rows.map((e) => ({
    id: e.id,
    version: e.version,
    day: dateOf(e.starts_at, book.house.zone),
    workId: e.work_id,
    activityId: e.activity_id,
    startsAt: e.starts_at,
    endsAt: e.ends_at,
    minutes: e.minutes,
    note: e.note,
    insideNote: e.inside_note,
    distance: e.distance && plainDecimal(e.distance),
    billable: e.billable,
    reason: e.reason,
    frozen: e.frozen || e.approval === 'approved' || e.corrects !== null,
    row: e,
  }));
}

export const rowKey = (e: { readonly workId: Id<'work'>; readonly activityId: Id<'activity'> }): string => `${e.workId} ${e.activityId}`;

/** What a row says of itself besides its cells. */
export function rowHead(e: WeekEntry): Omit<WeekRowWire, 'cells'> {
  return {
    ...namedWork(e.row),
    client: e.row.client ?? null,
    activityId: e.activityId,
    activity: e.row.activity,
  };
}

/** The week that a date lies in, Monday first: rows by work and activity in the order of numbers, the same on every device. */
export async function readWeekSheet(
  db: Db,
  book: HouseBook,
  { personId, day }: { readonly personId: Id<'person'>; readonly day: LocalDate },
): Promise<WeekSheetWire> {
  const dates = datesShown(day, 7);
  const ends = [dates[0]!, plusDays(dates[6]!, 1)] as const;
  const [entries, work, closed] = [
    await readWeekEntries(db, book, { personId, ends }),
    await readWork(db, book, { personIds: [personId], dates: ends }),
    await readClosedDays(db, personId, dates),
  ];
  const own = work.get(personId)!;
  return {
    days: dates.map((date) => ({
      day: date,
      expectedMinutes: expectedMinutes(book, own, date),
      closed: closed.has(date),
      holiday: own.holidays[date] ?? null,
    })),
    rows: [...new Set(entries.map(rowKey))]
      .map((key) =>
        rowWire(
          entries.filter((e) => rowKey(e) === key),
          dates,
        ),
      )
      .sort((a, b) => (a.number ?? Infinity) - (b.number ?? Infinity) || a.activity.localeCompare(b.activity)),
  };
}

function rowWire(own: readonly WeekEntry[], dates: readonly LocalDate[]): WeekRowWire {
  return {
    ...rowHead(own[0]!),
    cells: dates.map((day) => {
      const cell = own.filter((e) => e.day === day);
      return {
        day,
        minutes: sum(cell),
        frozenMinutes: sum(cell.filter((e) => e.frozen)),
        approvedMinutes: sum(cell.filter((e) => e.row.approval === 'approved')),
        returned: cell.find((e) => e.row.approval === 'returned')?.row.remark ?? null,
        note: cell.at(-1)?.note ?? null,
        insideNote: cell.at(-1)?.insideNote ?? null,
        distance: cell.at(-1)?.distance ?? null,
        distanceUnit: cell.at(-1)?.row.distance_unit ?? null,
        billable: cell.at(-1)?.billable ?? true,
        reason: cell.at(-1)?.reason ?? null,
        entries: cell.length,
      };
    }),
  };
}

function sum(entries: readonly WeekEntry[]): number {
  return entries.reduce((total, e) => total + e.minutes, 0);
}
