import { type Fit, type Place, scoreSlot, type Slot, slotAt, slotIn, type SlotLane, startsIn } from '@core/scheduling';
import { dateOf, type Id, type Instant, type Interval, isRefusal, plusDays, plusSeconds } from '@core/ground';
import { ticketFilterSchema, type TicketFilter } from '@core/desk';
import type { Row } from '../../app/rows';
import { at, type Db } from '../../app/database';
import { type HouseBook, spanOfDates } from '../../house';
import { laneFigures, readLaneFacts, readTechnicians, type LaneFacts, type Technician } from '../dispatch/dispatch-read-model';
import { readBookable, type Bookable } from '../dispatch/read-unbooked';
import { estimateWork } from '../estimates/estimate-work';
import { readKnownTravel, readStarts } from '../travel/read-travel';

const LATELY_SECONDS = 90 * 86_400;
const MOST_FITS = 60;
const MOST_WORK = 500;

/** A gap that work fits into: who, when, and how well. */
export interface Found {
  readonly work: Bookable;
  readonly personId: Id<'person'>;
  readonly person: string;
  readonly minutes: number;
  readonly slot: Slot;
  readonly fit: Fit;
}

interface Room {
  readonly lane: LaneFacts;
  readonly slots: SlotLane;
  readonly load: number;
  readonly gap: Interval;
}

/** What fits one gap of a technician, among the most pressing unbooked work; the best first. */
export async function findGapFits(
  db: Db,
  book: HouseBook,
  { personId, gap, now }: { readonly personId: Id<'person'>; readonly gap: Interval; readonly now: Instant },
): Promise<Found[]> {
  const day = dateOf(gap.from, book.house.zone);
  const person = (await readTechnicians(db, [])).filter((p) => p.id === personId);
  const rooms = (await readRooms(db, book, { people: person, first: day, days: 1, now })).flatMap((room) => {
    const from = Math.max(room.gap.from, gap.from) as Instant;
    const to = Math.min(room.gap.to, gap.to) as Instant;
    return from < to ? [{ ...room, gap: { from, to } }] : [];
  });
  const filter: TicketFilter = ticketFilterSchema.cast({ most: MOST_WORK });
  const found = await readBookable(db, filter, now);
  if (isRefusal(found) || !rooms.length) return [];
  const waiting = found.work.filter((w) => w.row.status !== 'on hold');
  return (await matched(db, { rooms, all: waiting, now })).slice(0, MOST_FITS);
}

/** The gaps that fit a piece of work over some days from now on, of all technicians or one; the best first. */
export async function findWorkFits(
  db: Db,
  book: HouseBook,
  { work, days, now, minutes }: { readonly work: Bookable; readonly days: number; readonly now: Instant; readonly minutes?: number },
): Promise<Found[]> {
  const rooms = await readRooms(db, book, { people: await readTechnicians(db, []), first: dateOf(now, book.house.zone), days, now });
  return (await matched(db, { rooms, all: [work], now, minutes })).slice(0, MOST_FITS);
}

const STEP_SECONDS = 2 * 3600;

/** All slots for a piece of work from an instant on, several where a gap is long; the best first. */
export async function findOpenings(
  db: Db,
  book: HouseBook,
  { work, days, from, now }: { readonly work: Bookable; readonly days: number; readonly from: Instant; readonly now: Instant },
): Promise<Found[]> {
  const rooms = await readRooms(db, book, { people: await readTechnicians(db, []), first: dateOf(from, book.house.zone), days, now: from });
  const parts = rooms.flatMap((room) => startsIn(room.gap, STEP_SECONDS).map((gap) => ({ ...room, gap })));
  return matched(db, { rooms: parts, all: [work], now });
}

/** Whether a technician still has room for work at this very time, with the ways around it. */
export async function hasRoom(
  db: Db,
  book: HouseBook,
  {
    personId,
    place,
    span,
    now,
  }: { readonly personId: Id<'person'>; readonly place: Place | null; readonly span: Interval; readonly now: Instant },
): Promise<boolean> {
  const people = (await readTechnicians(db, [])).filter((p) => p.id === personId);
  const rooms = await readRooms(db, book, { people, first: dateOf(span.from, book.house.zone), days: 1, now });
  const known = await readKnownTravel(db);
  return rooms.some((room) => slotAt({ lane: room.slots, gap: room.gap, span, place, known }));
}

async function readRooms(
  db: Db,
  book: HouseBook,
  {
    people,
    first,
    days,
    now,
  }: { readonly people: readonly Technician[]; readonly first: ReturnType<typeof dateOf>; readonly days: number; readonly now: Instant },
): Promise<Room[]> {
  const facts = await readLaneFacts(db, book, { people, dates: [first, plusDays(first, days)] });
  const starts = await readStarts(
    db,
    people.map((p) => p.id),
  );
  return facts.flatMap((lane) =>
    Array.from({ length: days }, (_, n) => plusDays(first, n)).flatMap((day) => {
      const whole = spanOfDates(book, day, plusDays(day, 1));
      const figures = laneFigures(lane, whole, now);
      const own = lane.bookings.filter((b) => b.span.from < whole.to && whole.from < b.span.to);
      const slots: SlotLane = {
        gaps: figures.gaps,
        start: starts.get(lane.person.id) ?? null,
        bookings: own.map((b) => ({ ...b.span, place: b.place ?? null, travelBefore: b.travelBefore, travelAfter: b.travelAfter })),
      };
      return figures.gaps.map((gap) => ({ lane, slots, load: figures.load, gap }));
    }),
  );
}

async function matched(
  db: Db,
  {
    rooms,
    all,
    now,
    minutes,
  }: { readonly rooms: readonly Room[]; readonly all: readonly Bookable[]; readonly now: Instant; readonly minutes?: number },
): Promise<Found[]> {
  const ids = [...new Set(rooms.map((r) => r.lane.person.id))];
  const [known, skills, usual, estimates] = [
    await readKnownTravel(db),
    await readLevels(db, ids),
    await readUsual(db, { ids, all, now }),
    await estimatesBy(db, ids, all),
  ];
  const found: Found[] = [];
  for (const room of rooms)
    for (const work of all) {
      const personId = room.lane.person.id;
      const level = work.skill ? (skills.get(`${personId} ${work.skill.id}`) ?? 0) : undefined;
      if (level === 0) continue;
      const place: Place | null = work.needsVisit ? work.place : null;
      const takes = minutes ?? estimates.get(`${personId} ${work.workId}`)!;
      const slot = slotIn({ lane: room.slots, gap: room.gap, minutes: takes, place, known });
      if (!slot) continue;
      const fit = scoreSlot({
        priority: work.priority,
        dueAt: work.dueAt,
        slot,
        now,
        skill: level === undefined ? undefined : { name: work.skill!.name, level },
        travelMinutes: place ? slot.travelBefore + slot.travelAfter : undefined,
        assigned: work.assigneeId === personId,
        ticketsOfClient: usual.get(`${personId} ${work.clientId}`) ?? 0,
        load: room.load,
      });
      found.push({ work, personId, person: room.lane.person.name, minutes: takes, slot, fit });
    }
  return found.sort((a, b) => b.fit.points - a.fit.points || a.slot.from - b.slot.from || (a.personId < b.personId ? -1 : 1));
}

async function readLevels(db: Db, ids: readonly string[]): Promise<Map<string, number>> {
  const rows = await db('person_skill').whereIn('person_id', ids).select('person_id', 'skill_id', 'level');
  return new Map(rows.map((r) => [`${r.person_id} ${r.skill_id}`, r.level as number]));
}

/** How many tickets of each client each technician worked on lately. */
async function readUsual(
  db: Db,
  { ids, all, now }: { readonly ids: readonly string[]; readonly all: readonly Bookable[]; readonly now: Instant },
): Promise<Map<string, number>> {
  const clients = [...new Set(all.flatMap((w) => w.clientId ?? []))];
  const rows: (Row<'time_entry', 'person_id' | 'client_id'> & { readonly n: number })[] = await db('time_entry')
    .whereIn('person_id', ids)
    .whereIn('client_id', clients)
    .whereNull('removed_at')
    .where('starts_at', '>', at(plusSeconds(now, -LATELY_SECONDS)))
    .groupBy('person_id', 'client_id')
    .select('person_id', 'client_id', db.raw('count(distinct work_id)::int as n'));
  return new Map(rows.map((r) => [`${r.person_id} ${r.client_id}`, r.n]));
}

/** What four fifths of like work of each technician do not exceed, in minutes. */
async function estimatesBy(db: Db, ids: readonly string[], all: readonly Bookable[]): Promise<Map<string, number>> {
  const asked = ids.flatMap((personId) => all.map((w) => ({ personId, w })));
  const estimates = await estimateWork(
    db,
    asked.map(({ personId, w }) => ({
      kind: w.row.kind,
      categoryId: w.row.category_id,
      personId,
      clientId: w.clientId,
      typed: w.row.estimate_minutes,
    })),
  );
  return new Map(asked.map(({ personId, w }, i) => [`${personId} ${w.workId}`, estimates[i]!.p80]));
}
