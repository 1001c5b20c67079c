import type { GatheredBy, PlannedBooking } from '@core/insight';
import { plusDays, type Instant, type LocalDate } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row, Rows } from '../../app/rows';
import { type HouseBook, spanOfDates } from '../../house';
import { laneFigures, readLaneFacts, readTechnicians } from '../../scheduling';

/** A span of dates, both included. */
export interface Dates {
  readonly from: LocalDate;
  readonly to: LocalDate;
}
const NOBODY = 'nobody';
const NO_CLIENT = 'no client';
const minutes = (from: Instant, to: Instant) => Math.round((to - from) / 60);

/** A booking with what it is booked for and whom. */
export type PlannedRow = Row<'booking'> &
  Row<'work_facts', 'number' | 'subject' | 'ticket_kind' | 'client_id'> & {
    readonly client: Rows['client']['name'] | null;
    readonly technician: Rows['person']['name'] | null;
    readonly moves: number;
  };

/** Bookings planned for a span, those that were only held or tentative left out, each with what became of it. */
export async function readPlanned(db: Db, book: HouseBook, dates: Dates): Promise<(PlannedBooking & { readonly row: PlannedRow })[]> {
  const span = spanOfDates(book, dates.from, plusDays(dates.to, 1));
  const rows: PlannedRow[] = await db('booking as b')
    .join('work_facts as w', 'w.id', 'b.work_id')
    .leftJoin('client as c', 'c.id', 'w.client_id')
    .leftJoin('person as p', 'p.id', 'b.person_id')
    .where({ 'b.tentative': false })
    .where('b.planned_starts_at', '>=', at(span.from))
    .where('b.planned_starts_at', '<', at(span.to))
    .orderBy([{ column: 'b.planned_starts_at', order: 'desc' }, 'b.id'])
    .select(
      'b.*',
      'w.number',
      'w.subject',
      'w.ticket_kind',
      'w.client_id',
      'c.name as client',
      'p.name as technician',
      db.raw(`(select count(*)::int from booking_change m where m.booking_id = b.id and m.what in ('moved', 'handed over')) as moves`),
    );
  return rows.map((row) => ({
    row,
    key: gathered(row, 'person_id', 'client_id'),
    name: gathered(row, 'technician', 'client'),
    state: row.state,
    plannedMinutes: minutes(row.planned_starts_at, row.planned_ends_at),
    actualMinutes: minutes(row.starts_at, row.ends_at),
    travelMinutes: row.travel_before + row.travel_after,
    moves: row.moves,
  }));
}

function gathered(row: PlannedRow, technician: 'person_id' | 'technician', client: 'client_id' | 'client'): Record<GatheredBy, string> {
  return { technician: row[technician] ?? NOBODY, kind: row.ticket_kind ?? row.work_kind, client: row[client] ?? NO_CLIENT };
}

/** Minutes of each technician's available time that passed with nothing booked and no way to go. */
export async function readLost(
  db: Db,
  book: HouseBook,
  { dates, now }: { readonly dates: Dates; readonly now: Instant },
): Promise<Map<string, { name: string; minutes: number }>> {
  const people = await readTechnicians(db, []);
  const facts = await readLaneFacts(db, book, { people, dates: [dates.from, plusDays(dates.to, 1)] });
  const whole = spanOfDates(book, dates.from, plusDays(dates.to, 1));
  return new Map(
    facts.map((lane) => [lane.person.id, { name: lane.person.name, minutes: Math.floor(laneFigures(lane, whole, now).lost / 60) }]),
  );
}
