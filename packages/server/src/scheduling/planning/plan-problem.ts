import { type Instant, type Interval, isRefusal, parseLocalDate, plusDays, subtract, unite } from '@core/ground';
import { type Place, type PlanAsk, type PlanTechnician, type PlanWork, travelMinutes } from '@core/scheduling';
import { ticketFilterSchema, type TicketFilter } from '@core/desk';
import type { Db } from '../../app/database';
import type { HouseBook } from '../../house';
import { readLaneFacts, readTechnicians, type LaneFacts } from '../dispatch/dispatch-read-model';
import { readBookable, readOneBookable, type Bookable } from '../dispatch/read-unbooked';
import type { LaneRow } from '../dispatch/read-bookings';
import { readKnownTravel, readStarts } from '../travel/read-travel';
import type { SentProblem } from './plan-worker';

const GRID_SECONDS = 300;
const MOST_WORK = 500;

/** What a plan is made of: the problem, and what stands behind its pieces of work. */
export interface ReadProblem {
  readonly problem: SentProblem;
  readonly bookings: ReadonlyMap<string, LaneRow>;
  readonly tickets: ReadonlyMap<string, Bookable>;
  readonly people: ReadonlyMap<string, string>;
}

/** Reads lanes and work as they stand now; what has begun, is done or is agreed stays where it is. */
export async function readProblem(
  db: Db,
  book: HouseBook,
  { ask, now }: { readonly ask: PlanAsk; readonly now: Instant },
): Promise<ReadProblem> {
  const first = parseLocalDate(ask.day);
  const people = await readTechnicians(db, ask.teamIds);
  const ids = people.map((p) => p['id']);
  const [lanes, known, starts, levels, work] = [
    await readLaneFacts(db, book, { people, dates: [first, plusDays(first, ask.days)] }),
    await readKnownTravel(db),
    await readStarts(db, ids),
    await db('person_skill').whereIn('person_id', ids).select('person_id', 'skill_id', 'level'),
    await readAskedWork(db, ask, now),
  ];
  const bookings = lanes.flatMap((l) => l.bookings);
  const tickets = work.filter((w) => !bookings.some((b) => b.workId === w.workId && b.state !== 'done'));
  const technicians = lanes.map((lane): PlanTechnician => {
    const id = lane.person['id'];
    const own = levels.filter((s) => s.person_id === id);
    const skills = Object.fromEntries(own.map((s) => [s.skill_id as string, s.level as number]));
    return { id, available: available(lane), start: starts.has(id) ? id : null, skills };
  });
  const places = new Map<string, Place>(
    [...starts.values(), ...bookings.flatMap((b) => b.place ?? []), ...tickets.flatMap((t) => t.place ?? [])].map((p) => [p.id, p]),
  );
  const minutes: Record<string, number> = {};
  for (const a of places.values()) for (const b of places.values()) minutes[`${a.id} ${b.id}`] = travelMinutes(a, b, known);
  return {
    problem: {
      technicians,
      work: [...bookings.map((b) => bookedWork(b, now)), ...tickets.map(ticketWork)],
      from: (Math.ceil(now / GRID_SECONDS) * GRID_SECONDS) as Instant,
      grid: GRID_SECONDS,
      minutes,
    },
    bookings: new Map(bookings.map((b) => [`booking ${b.id}`, b])),
    tickets: new Map(tickets.map((t) => [`ticket ${t.workId}`, t])),
    people: new Map(people.map((p) => [p['id'], p['name']])),
  };
}

async function readAskedWork(db: Db, ask: PlanAsk, now: Instant): Promise<Bookable[]> {
  const named = await Promise.all(ask.workIds.map((id) => readOneBookable(db, id)));
  if (ask.onlyRepair) return named.flatMap((n) => n ?? []);
  const filter: TicketFilter = ticketFilterSchema.cast({ most: MOST_WORK, notHeld: 'yes' });
  const found = await readBookable(db, filter, now);
  const all = isRefusal(found) ? [] : found.work;
  return [...named.flatMap((n) => n ?? []).filter((n) => !all.some((w) => w.workId === n.workId)), ...all];
}

function available({ work }: LaneFacts): Interval[] {
  return subtract(unite(work.working), unite([...work.away, ...work.busy]));
}

function bookedWork(b: LaneRow, now: Instant): PlanWork {
  const stays = b.state !== 'planned' || b.fixed || b.crewId !== null || b.held !== null || b.span.from <= now;
  return {
    id: `booking ${b.id}`,
    minutes: Math.round((b.span.to - b.span.from) / 60),
    priority: b.priority ?? 'P4',
    // What is over or begun is late or not whatever is planned.
    dueAt: b.dueAt && !stays ? ((Date.parse(b.dueAt) / 1000) as Instant) : null,
    place: b.place?.id ?? null,
    skillId: b.skill?.id ?? null,
    booking: { technicianId: b.personId!, ...b.span, fixed: stays },
  };
}

function ticketWork(t: Bookable): PlanWork {
  return {
    id: `ticket ${t.workId}`,
    minutes: Math.ceil(t.estimate.p80 / 5) * 5,
    priority: t.priority,
    dueAt: t.dueAt,
    place: t.needsVisit ? (t.place?.id ?? null) : null,
    skillId: t.skill?.id ?? null,
    booking: null,
  };
}
