import { parseCalendar, workingIntervals } from '@core/calendars';
import { clockWire } from '@core/clocks';
import { beatStrip, laneDay, type BookingWire, type DispatchDayWire, type LaneWire } from '@core/dispatch';
import { formatInstant, instantAt, plusDays, unite, type Instant, type Interval, type LocalDate } from '@core/time';
import { at, type Columns, type Db } from '../app/database';
import type { HouseBook } from '../house/house-book';
import { readClocks } from '../tickets/ticket-clock-store';

/** Lanes are drawn from 07:00 to 19:00 of the provider's day. */
const FIRST_MINUTE = 7 * 60;
const LAST_MINUTE = 19 * 60;
const USUAL_ESTIMATE = 30;

export function shownSpan(book: HouseBook, day: LocalDate): Interval {
  const { zone } = book.house;
  return { from: instantAt(day, FIRST_MINUTE, zone), to: instantAt(day, LAST_MINUTE, zone) };
}

export async function readDispatchDay(
  db: Db,
  book: HouseBook,
  day: LocalDate,
  teamId: string | undefined,
  now: Instant,
): Promise<DispatchDayWire> {
  const { zone } = book.house;
  const span = shownSpan(book, day);
  const whole = { from: instantAt(day, 0, zone), to: instantAt(plusDays(day, 1), 0, zone) };
  const people = await db('person as p')
    .join('person_hours as h', 'h.person_id', 'p.id')
    .leftJoin('grade as g', 'g.id', 'p.grade_id')
    .leftJoin('team as t', 't.id', 'p.team_id')
    .where({ 'p.technician': true, 'p.active': true })
    .modify((q) => teamId && void q.where('p.team_id', teamId))
    .orderBy(['t.position', 'p.name'])
    .select('p.id', 'p.name', 'g.name as grade', 't.name as team', 'h.week');
  const ids = people.map((p: Columns): string => p.id);
  const [bookings, logged, off, teams, unbooked] = await Promise.all([
    readBookings(db, whole),
    loggedBy(db, ids, whole),
    db('time_off').whereIn('person_id', ids).where('starts_at', '<', at(whole.to)).where('ends_at', '>', at(whole.from)),
    db('team').orderBy('position').select('id', 'name'),
    readUnbooked(db, book, now),
  ]);
  const lanes = people.map((person: Columns): LaneWire => {
    const working = workingIntervals(parseCalendar({ name: person.name, zone, week: person.week }), day, plusDays(day, 1));
    const timeOff = off.filter((o) => o.person_id === person.id).map((o): Interval => ({ from: o.starts_at, to: o.ends_at }));
    const own = bookings.filter((b) => b.personId === person.id);
    const spans = own.map((b) => ({
      id: b.id,
      from: (Date.parse(b.startsAt) / 1000) as Instant,
      to: (Date.parse(b.endsAt) / 1000) as Instant,
      travelMinutes: b.travelMinutes,
    }));
    const figures = laneDay(working, timeOff, spans, now);
    return {
      personId: person.id,
      name: person.name,
      grade: person.grade,
      team: person.team,
      working: working.map(spanWire),
      timeOff: timeOff.map(spanWire),
      bookings: own,
      gaps: figures.gaps.map(spanWire),
      beats: beatStrip(span, working, unite(spans), logged.get(person.id) ?? []),
      availableMinutes: Math.floor(figures.available / 60),
      bookedMinutes: Math.floor(figures.booked / 60),
      load: figures.load,
      freeMinutes: Math.floor(figures.free / 60),
      conflicts: [...figures.conflicts],
    };
  });
  const nobody = bookings.filter((b) => b.personId === null);
  if (nobody.length && !teamId)
    lanes.push({
      personId: NOBODY,
      name: 'no technician',
      grade: null,
      team: null,
      working: [],
      timeOff: [],
      bookings: nobody,
      gaps: [],
      beats: [],
      availableMinutes: 0,
      bookedMinutes: 0,
      load: 0,
      freeMinutes: 0,
      conflicts: [],
    });
  return { day, from: formatInstant(span.from), to: formatInstant(span.to), now: formatInstant(now), lanes, unbooked, teams };
}

/** The lane of bookings without a technician. */
const NOBODY = '00000000-0000-0000-0000-000000000000';

function spanWire({ from, to }: Interval) {
  return { from: formatInstant(from), to: formatInstant(to) };
}

async function readBookings(db: Db, span: Interval): Promise<BookingWire[]> {
  const rows = await db('booking as b')
    .join('ticket as t', 't.id', 'b.ticket_id')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .whereNot('b.state', 'cancelled')
    .where('b.starts_at', '<', at(span.to))
    .where('b.ends_at', '>', at(span.from))
    .orderBy('b.starts_at')
    .select('b.*', 't.number', 't.subject', 't.priority', 'c.name as client');
  return rows.map((b) => ({
    id: b.id,
    version: b.version,
    ticketId: b.ticket_id,
    number: b.number,
    subject: b.subject,
    client: b.client,
    priority: b.priority,
    personId: b.person_id,
    startsAt: formatInstant(b.starts_at),
    endsAt: formatInstant(b.ends_at),
    plannedStartsAt: formatInstant(b.planned_starts_at),
    plannedEndsAt: formatInstant(b.planned_ends_at),
    state: b.state,
    travelMinutes: b.travel_minutes,
  }));
}

export async function loggedBy(db: Db, personIds: readonly string[], span: Interval): Promise<Map<string, Interval[]>> {
  const rows = await db('time_entry')
    .whereIn('person_id', personIds)
    .whereNull('removed_at')
    .where('starts_at', '<', at(span.to))
    .where('ends_at', '>', at(span.from))
    .select('person_id', 'starts_at', 'ends_at');
  const map = new Map<string, Interval[]>();
  for (const row of rows) map.set(row.person_id, [...(map.get(row.person_id) ?? []), { from: row.starts_at, to: row.ends_at }]);
  return map;
}

/** Open, sorted work that no booking stands for, the most pressing first. */
async function readUnbooked(db: Db, book: HouseBook, now: Instant): Promise<DispatchDayWire['unbooked']> {
  const rows = await db('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .whereIn('t.status', ['queued', 'underway'])
    .whereNot('t.kind', 'unsorted')
    .whereNotExists(db('booking as b').whereRaw('b.ticket_id = t.id').whereIn('b.state', ['planned', 'underway']).select(db.raw('1')))
    .orderByRaw(`coalesce(t.due_at, 'infinity'::timestamptz), t.id`)
    .limit(100)
    .select(
      't.id',
      't.version',
      't.number',
      't.subject',
      't.priority',
      't.policy_version_id',
      't.estimate_minutes',
      'c.name as client',
      'c.calendar_id',
    );
  const clocks = await readClocks(
    db,
    book,
    rows.map((t) => ({ id: t.id, policyVersionId: t.policy_version_id, clientCalendarId: t.calendar_id })),
    now,
  );
  return rows.map((t) => ({
    ticketId: t.id,
    version: t.version,
    number: t.number,
    subject: t.subject,
    client: t.client,
    priority: t.priority,
    estimateMinutes: t.estimate_minutes ?? USUAL_ESTIMATE,
    estimateFrom: t.estimate_minutes ? 'typed on the ticket' : 'house default',
    clocks: clocks.get(t.id)!.map(clockWire),
  }));
}
