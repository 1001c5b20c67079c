import { beatStrip, laneDay, type DispatchWire, type LaneWire } from '@core/scheduling';
import {
  formatInstant,
  type Id,
  type Instant,
  instantAt,
  intersect,
  type Interval,
  type LocalDate,
  plusDays,
  unite,
  wallMinuteOf,
  weekdayOf,
} from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { type HouseBook, readWork, spanOfDates, type WorkOf } from '../../house';
import { readKnownTravel, readStarts } from '../travel/read-travel';
import { readBookings, type LaneRow } from './read-bookings';

/** Lanes are drawn from 07:00 to 19:00 of the provider's day, and wider where somebody works or is booked then. */
const FIRST_MINUTE = 7 * 60;
const LAST_MINUTE = 19 * 60;

export function shownSpan(book: HouseBook, day: LocalDate): Interval {
  const { zone } = book.house;
  return { from: instantAt(day, FIRST_MINUTE, zone), to: instantAt(day, LAST_MINUTE, zone) };
}

export interface DispatchQuery {
  readonly day: LocalDate;
  /** One, three, five (Monday to Friday of the day's week) or seven (that week). */
  readonly days: number;
  readonly teamIds: readonly Id<'team'>[];
  readonly cancelled: boolean;
}

/** The dates that are shown: from the day on, or the week it lies in. */
export function datesShown(day: LocalDate, days: number): LocalDate[] {
  const first = days >= 5 ? plusDays(day, 1 - weekdayOf(day)) : day;
  return Array.from({ length: days }, (_, n) => plusDays(first, n));
}

/** Somebody who is booked. */
export type Technician = Row<'person', 'id' | 'name'> & { readonly grade: string | null; readonly team: string | null };

/** A technician with their time and bookings over some dates. */
export interface LaneFacts {
  readonly person: Technician;
  readonly work: WorkOf;
  readonly bookings: readonly LaneRow[];
  /** Time they recorded, on whatever. */
  readonly recorded: readonly Interval[];
}

/** Technicians of some teams, or of all, in the order of lanes. */
export async function readTechnicians(db: Db, teamIds: readonly Id<'team'>[]): Promise<Technician[]> {
  return db('person as p')
    .leftJoin('grade as g', 'g.id', 'p.grade_id')
    .leftJoin('team as t', 't.id', 'p.team_id')
    .where({ 'p.technician': true, 'p.active': true })
    .modify((q) => teamIds.length > 0 && void q.whereIn('p.team_id', [...teamIds]))
    .orderBy(['t.position', 'p.name'])
    .select('p.id', 'p.name', 'g.name as grade', 't.name as team');
}

/** What lanes are made of, over the dates from the first up to but not including `to`. */
export async function readLaneFacts(
  db: Db,
  book: HouseBook,
  { people, dates }: { readonly people: readonly Technician[]; readonly dates: readonly [LocalDate, LocalDate] },
): Promise<LaneFacts[]> {
  const ids = people.map((p) => p.id);
  const span = spanOfDates(book, ...dates);
  const [work, recorded, bookings] = await Promise.all([
    readWork(db, book, { personIds: ids, dates }),
    loggedBy(db, ids, span),
    readBookings(db, span, (q) => void q.whereIn('b.person_id', ids).whereNot('b.state', 'cancelled')),
  ]);
  return people.map((person) => ({
    person,
    work: work.get(person.id)!,
    bookings: bookings.filter((b) => b.personId === person.id),
    recorded: recorded.get(person.id) ?? [],
  }));
}

/** A lane's figures over a span. */
export function laneFigures({ work, bookings, recorded }: LaneFacts, whole: Interval, now: Instant) {
  const inside = (i: Interval) => i.from < whole.to && whole.from < i.to;
  const working = intersect(work.working.filter(inside), [whole]);
  const away = [...work.away, ...work.busy].filter(inside);
  const spans = bookings
    .filter((b) => inside(b.span))
    .map((b) => ({ id: b.id, ...b.span, travelBefore: b.travelBefore, travelAfter: b.travelAfter }));
  return { working, away, spans, ...laneDay({ working, timeOff: away, bookings: spans, recorded, now }) };
}

export async function readDispatch(
  db: Db,
  book: HouseBook,
  { query, now }: { readonly query: DispatchQuery; readonly now: Instant },
): Promise<DispatchWire> {
  const dates = datesShown(query.day, query.days);
  const people = await readTechnicians(db, query.teamIds);
  const [shown, nobody, known, teams, skills] = await Promise.all([
    readLanes(db, book, { people, dates, cancelled: query.cancelled, now }),
    readBookings(db, spanOfDates(book, ...endsOf(dates)), (q) => void q.whereNull('b.person_id').whereNot('b.state', 'cancelled')),
    readKnownTravel(db),
    db('team').orderBy('position').select('id', 'name'),
    db('skill').orderBy('name').select('id', 'name'),
  ]);
  return {
    days: shown.days,
    now: formatInstant(now),
    lanes: nobody.length ? [...shown.lanes, nobodysLane(nobody)] : shown.lanes,
    known: [...known].map(([pair, minutes]) => ({ a: pair.split(' ')[0]!, b: pair.split(' ')[1]!, minutes })),
    teams,
    skills,
  };
}

function endsOf(dates: readonly LocalDate[]): readonly [LocalDate, LocalDate] {
  return [dates[0]!, plusDays(dates.at(-1)!, 1)];
}

/** The lanes of some people over some dates that follow each other, and the hours that they are drawn over. */
export async function readLanes(
  db: Db,
  book: HouseBook,
  {
    people,
    dates,
    cancelled: withCancelled,
    now,
  }: {
    readonly people: readonly Technician[];
    readonly dates: readonly LocalDate[];
    readonly cancelled: boolean;
    readonly now: Instant;
  },
): Promise<Pick<DispatchWire, 'days' | 'lanes'>> {
  const { zone } = book.house;
  const ends = endsOf(dates);
  const span = spanOfDates(book, ...ends);
  const ids = people.map((p): string => p.id);
  const [facts, cancelled, onCall, skills, starts] = await Promise.all([
    readLaneFacts(db, book, { people, dates: ends }),
    withCancelled ? readBookings(db, span, (q) => void q.where('b.state', 'cancelled')) : [],
    db('on_call').where('starts_at', '<', at(span.to)).where('ends_at', '>', at(span.from)).select('person_id'),
    db('person_skill').whereIn('person_id', ids).select('person_id', 'skill_id as skillId', 'level'),
    readStarts(db, ids),
  ]);
  const hours = hoursShown(book, facts);
  const shown = dates.map((day) => ({ day, span: { from: instantAt(day, hours.first, zone), to: instantAt(day, hours.last, zone) } }));
  const lanes = facts.map((lane): LaneWire => {
    const days = shown.map(({ day, span: seen }) => {
      const f = laneFigures(lane, spanOfDates(book, day, plusDays(day, 1)), now);
      return {
        figures: f,
        wire: {
          day,
          working: f.working.map(spanWire),
          away: f.away.map((a) => ({ ...spanWire(a), what: a.what })),
          holiday: lane.work.holidays[day] ?? null,
          gaps: f.gaps.map(spanWire),
          beats: beatStrip({ span: seen, working: f.working, booked: unite(f.spans), logged: lane.recorded }),
          availableMinutes: Math.floor(f.available / 60),
          bookedMinutes: Math.floor(f.booked / 60),
          load: f.load,
          freeMinutes: Math.floor(f.free / 60),
          lostMinutes: Math.floor(f.lost / 60),
        },
      };
    });
    return {
      personId: lane.person.id,
      name: lane.person.name,
      grade: lane.person.grade,
      team: lane.person.team,
      start: starts.get(lane.person.id) ?? null,
      skills: skills.filter((s) => s.person_id === lane.person.id).map(({ skillId, level }) => ({ skillId, level })),
      onCall: onCall.some((o) => o.person_id === lane.person.id),
      days: days.map((d) => d.wire),
      bookings: [...lane.bookings, ...cancelled.filter((b) => b.personId === lane.person.id)].map(withoutSpan),
      conflicts: days.flatMap((d) => d.figures.conflicts),
    };
  });
  return { days: shown.map(({ day, span: s }) => ({ day, ...spanWire(s) })), lanes };
}

/** Bookings that have a time but nobody yet. */
function nobodysLane(bookings: readonly LaneRow[]): LaneWire {
  const none = { grade: null, team: null, start: null, skills: [], onCall: false, days: [], conflicts: [] };
  return { personId: null, name: 'no technician', ...none, bookings: bookings.map(withoutSpan) };
}

/** The hours of the day that all of the lanes need, the same on every day shown. */
function hoursShown(book: HouseBook, facts: readonly LaneFacts[]): { first: number; last: number } {
  const { zone } = book.house;
  const spans = facts.flatMap((f) => [...f.work.working, ...f.bookings.map((b) => b.span)]);
  const first = Math.min(FIRST_MINUTE, ...spans.map((s) => Math.floor(wallMinuteOf(s.from, zone) / 60) * 60));
  const last = Math.max(LAST_MINUTE, ...spans.map((s) => Math.ceil((wallMinuteOf(s.to, zone) || 1440) / 60) * 60));
  return { first, last };
}

function withoutSpan({ span, ...booking }: LaneRow) {
  void span;
  return booking;
}

export function spanWire({ from, to }: Interval) {
  return { from: formatInstant(from), to: formatInstant(to) };
}

export async function loggedBy(db: Db, personIds: readonly Id<'person'>[], span: Interval): Promise<Map<string, Interval[]>> {
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
