import {
  gatherTime,
  partsOf,
  type TimeReportBy,
  type TimeReportPart,
  type TimeReportRowWire,
  type TimeReportTotalWire,
  type WorkedTime,
} from '@core/insight';
import { isChargedByTime } from '@core/time';
import { plusDays, secondsIn, subtract, unite, type Instant, type LocalDate } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row, Rows } from '../../app/rows';
import { type HouseBook, readWork, spanOfDates } from '../../house';
import { readTechnicians } from '../../scheduling';

/** A span of dates, both included. */
export interface Dates {
  readonly from: LocalDate;
  readonly to: LocalDate;
}
const NO_CLIENT = 'no client';

/** An entry with its person, activity, work and client, and what its corrections leave of it. */
type WorkedRow = Row<
  'time_entry',
  'id' | 'person_id' | 'client_id' | 'activity_id' | 'starts_at' | 'billable' | 'note' | 'work_id' | 'work_kind'
> &
  Row<'work_facts', 'number' | 'subject' | 'ticket_kind'> & {
    readonly person: Rows['person']['name'];
    readonly activity: Rows['activity']['name'];
    readonly client: Rows['client']['name'] | null;
    readonly minutes: number;
  };

/** Entries that begin in a span, each with its corrections in it; those that were corrected to nothing are left out. */
async function readWorked(db: Db, book: HouseBook, dates: Dates): Promise<(WorkedTime & { readonly row: WorkedRow })[]> {
  const span = spanOfDates(book, dates.from, plusDays(dates.to, 1));
  const rows: WorkedRow[] = await db('time_entry as e')
    .join('person as p', 'p.id', 'e.person_id')
    .join('activity as a', 'a.id', 'e.activity_id')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .leftJoin('client as c', 'c.id', 'e.client_id')
    .whereNull('e.removed_at')
    .whereNull('e.corrects')
    .where('e.starts_at', '>=', at(span.from))
    .where('e.starts_at', '<', at(span.to))
    .orderBy([{ column: 'e.starts_at', order: 'desc' }, 'e.id'])
    .select(
      'e.id',
      'e.person_id',
      'e.client_id',
      'e.activity_id',
      'e.starts_at',
      'e.billable',
      'e.note',
      'e.work_id',
      'e.work_kind',
      'p.name as person',
      'a.name as activity',
      'w.number',
      'w.subject',
      'w.ticket_kind',
      'c.name as client',
      db.raw(
        'e.minutes + coalesce((select sum(x.minutes)::int from time_entry x where x.corrects = e.id and x.removed_at is null), 0) as minutes',
      ),
    );
  return rows
    .filter((row) => row.minutes > 0)
    .map((row) => ({
      row,
      id: row.id,
      key: { technician: row.person_id, client: row.client_id ?? NO_CLIENT, activity: row.activity_id },
      name: { technician: row.person, client: row.client ?? NO_CLIENT, activity: row.activity },
      from: row.starts_at,
      minutes: row.minutes,
      billable: isChargedByTime({ billable: row.billable, clientId: row.client_id, ticketKind: row.ticket_kind }),
    }));
}

const sum = (all: readonly { readonly minutes: number; readonly billableMinutes: number }[]) => ({
  minutes: all.reduce((total, r) => total + r.minutes, 0),
  billableMinutes: all.reduce((total, r) => total + r.billableMinutes, 0),
});

/** Hours of a span by what is asked for, against another span where one is named. */
export async function readTimeReport(
  db: Db,
  book: HouseBook,
  { dates, than, by, now }: { readonly dates: Dates; readonly than: Dates | undefined; readonly by: TimeReportBy; readonly now: Instant },
): Promise<{ rows: TimeReportRowWire[]; total: TimeReportTotalWire }> {
  const gather = async (of: Dates) => gatherTime(partsOf(await readWorked(db, book, of), by, book.house.calendar));
  const [rows, before] = [await gather(dates), than && (await gather(than))];
  const expected = by === 'technician' ? await readExpected(db, book, { dates, now }) : undefined;
  const earlier = new Map(before?.map((r) => [r.key, r]));
  const keys = new Map<string, string>(rows.map((r) => [r.key, r.name]));
  for (const r of before ?? []) if (!keys.has(r.key)) keys.set(r.key, r.name);
  for (const [key, { name, minutes }] of expected ?? []) if (minutes && !keys.has(key)) keys.set(key, name);
  const shown = [...keys].map(([key, name]): TimeReportRowWire => {
    const row = rows.find((r) => r.key === key);
    return {
      key,
      name,
      minutes: row?.minutes ?? 0,
      billableMinutes: row?.billableMinutes ?? 0,
      expectedMinutes: expected ? (expected.get(key)?.minutes ?? 0) : null,
      thanMinutes: before ? (earlier.get(key)?.minutes ?? 0) : null,
      thanBillableMinutes: before ? (earlier.get(key)?.billableMinutes ?? 0) : null,
    };
  });
  const [all, allBefore] = [sum(rows), before && sum(before)];
  return {
    rows: shown,
    total: {
      ...all,
      expectedMinutes: expected ? [...expected.values()].reduce((total, e) => total + e.minutes, 0) : null,
      thanMinutes: allBefore?.minutes ?? null,
      thanBillableMinutes: allBefore?.billableMinutes ?? null,
    },
  };
}

/** Working time of each technician by pattern, time off taken away, as far as it has passed. */
async function readExpected(
  db: Db,
  book: HouseBook,
  { dates, now }: { readonly dates: Dates; readonly now: Instant },
): Promise<Map<string, { name: string; minutes: number }>> {
  const people = await readTechnicians(db, []);
  const work = await readWork(db, book, { personIds: people.map((p) => p.id), dates: [dates.from, plusDays(dates.to, 1)] });
  return new Map(
    people.map((p) => {
      const { working, away } = work.get(p.id)!;
      const passed = working.map((w) => ({ from: w.from, to: Math.min(w.to, now) as Instant })).filter((w) => w.from < w.to);
      return [p.id, { name: p.name, minutes: Math.floor(secondsIn(subtract(unite(passed), unite(away))) / 60) }];
    }),
  );
}

/** The entries behind one row, the latest first. */
export async function readPartsOfRow(
  db: Db,
  book: HouseBook,
  { dates, by, key }: { readonly dates: Dates; readonly by: TimeReportBy; readonly key: string },
): Promise<(TimeReportPart & { readonly row: WorkedRow })[]> {
  const worked = await readWorked(db, book, dates);
  const rows = new Map(worked.map((w) => [w.id, w.row]));
  return partsOf(worked, by, book.house.calendar)
    .filter((part) => part.key === key)
    .map((part) => ({ ...part, row: rows.get(part.entry.id)! }));
}
