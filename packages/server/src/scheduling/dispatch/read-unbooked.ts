import { clockWire, type Priority, type TicketFilter } from '@core/desk';
import type { Estimate, Place, UnbookedWire } from '@core/scheduling';
import { type Id, type Instant, isRefusal, type NamedWork, naming, type Outcome, type WorkKind } from '@core/ground';
import { wireAt, type Db } from '../../app/database';
import type { Joined, Row } from '../../app/rows';
import { keysetPage } from '../../app/keyset-page';
import { narrow, readClocks, resolutionDue, SORTS } from '../../desk';
import { namedWork } from '../../ground';
import type { HouseBook } from '../../house';
import { estimateWork } from '../estimates/estimate-work';
import { placeOf } from '../travel/read-travel';

const COLUMNS = [
  't.id',
  't.version',
  't.number',
  't.subject',
  't.kind',
  't.status',
  't.priority',
  't.client_id',
  't.category_id',
  't.assignee_id',
  't.promise_version_id',
  't.estimate_minutes',
  't.needs_visit',
];

/** A ticket, or other work that has less of what a ticket has. */
type WorkRow = Row<
  'ticket',
  | 'id'
  | 'number'
  | 'subject'
  | 'kind'
  | 'status'
  | 'priority'
  | 'client_id'
  | 'category_id'
  | 'assignee_id'
  | 'estimate_minutes'
  | 'needs_visit'
> & { readonly version?: number; readonly promise_version_id?: string };
/** What stands around work: whose it is, what skill it asks for, where it is, and by when it is to be done. */
type WorkAround = Row<'work_facts', 'id'> &
  Joined<'client', 'calendar_id'> &
  Joined<'site', 'latitude' | 'longitude'> & {
    readonly work_kind: WorkKind;
    readonly client: string | null;
    readonly resolution_due: Instant | null;
    readonly skill_id: string | null;
    readonly skill: string | null;
    readonly site_id: string | null;
    readonly site: string | null;
  };

/** Work that could be booked, as far as dispatch needs it. */
export interface Bookable extends NamedWork {
  readonly client: string | null;
  readonly clientId: Id<'client'> | null;
  readonly priority: Priority;
  readonly dueAt: Instant | null;
  readonly assigneeId: Id<'person'> | null;
  readonly needsVisit: boolean;
  /** Where it is, wherever it is done from. */
  readonly place: Place | null;
  readonly skill: { readonly id: Id<'skill'>; readonly name: string } | null;
  readonly estimate: Estimate;
  readonly row: WorkRow & Pick<WorkAround, 'site' | 'calendar_id'>;
}

/** Open, sorted work that no booking stands for, by every filter of tickets, the most pressing first. */
export async function readBookable(
  db: Db,
  asked: TicketFilter,
  now: Instant,
): Promise<Outcome<{ work: Bookable[]; count: number; countCapped: boolean }>> {
  const filter: TicketFilter = { ...asked, state: 'open', booked: 'no' };
  const matching = () => narrow(db, filter, now).whereIn('t.status', ['queued', 'underway', 'on hold']).whereNull('t.umbrella_id');
  const page = await keysetPage<WorkRow>(db, { matching, id: 't.id', sorts: SORTS, select: (rows) => rows.select(...COLUMNS) }, filter);
  if (isRefusal(page)) return page;
  return { work: await bookables(db, page.rows), count: page.count, countCapped: page.countCapped };
}

/** One piece of work as it could be booked, whatever stands for it already. */
export async function readOneBookable(db: Db, workId: Id<'work'>): Promise<Bookable | undefined> {
  const [row] = await bookables(db, await db('work_facts').where({ id: workId }).select('*', 'ticket_kind as kind', 'kind as work_kind'));
  return row;
}

async function bookables(db: Db, rows: readonly WorkRow[]): Promise<Bookable[]> {
  const facts: WorkAround[] = await db('work_facts as w')
    .leftJoin('client as c', 'c.id', 'w.client_id')
    .leftJoin('category as g', 'g.id', 'w.category_id')
    .leftJoin('skill as l', 'l.id', 'g.skill_id')
    .leftJoin('site as s', 's.id', 'w.site_id')
    .whereIn(
      'w.id',
      rows.map((r) => r.id),
    )
    .select(
      'w.id',
      'w.kind as work_kind',
      'c.name as client',
      'c.calendar_id',
      db.raw(`${resolutionDue('w')} as resolution_due`),
      'l.id as skill_id',
      'l.name as skill',
      's.id as site_id',
      's.name as site',
      's.latitude',
      's.longitude',
    );
  const by = new Map(facts.map((f) => [f.id, f]));
  const estimates = await estimateWork(
    db,
    rows.map((t) => ({
      kind: t.kind,
      categoryId: t.category_id,
      personId: t.assignee_id,
      clientId: t.client_id,
      typed: t.estimate_minutes,
    })),
  );
  return rows.map((t, i): Bookable => {
    const f = by.get(t.id)!;
    return {
      ...namedWork({ ...t, work_id: t.id, work_kind: f.work_kind }),
      client: f.client,
      clientId: t.client_id,
      priority: t.priority ?? 'P3',
      dueAt: f.resolution_due,
      assigneeId: t.assignee_id,
      needsVisit: t.needs_visit,
      place: placeOf(f.site_id, f.latitude, f.longitude),
      skill: f.skill_id ? { id: f.skill_id, name: f.skill! } : null,
      estimate: estimates[i]!,
      row: { ...t, site: f.site, calendar_id: f.calendar_id },
    };
  });
}

export async function listUnbooked(
  db: Db,
  book: HouseBook,
  { filter, now }: { readonly filter: TicketFilter; readonly now: Instant },
): Promise<Outcome<{ work: UnbookedWire[]; count: number; countCapped: boolean }>> {
  const found = await readBookable(db, filter, now);
  if (isRefusal(found)) return found;
  const clocks = await readClocks(db, book, {
    tickets: found.work.map(({ row: t }) => ({ id: t.id, promiseVersionId: t.promise_version_id!, clientCalendarId: t.calendar_id })),
    now,
  });
  return {
    ...found,
    work: found.work.map((w) => ({
      ...naming(w),
      version: w.row.version!,
      client: w.client,
      site: w.row.site,
      priority: w.row.priority!,
      status: w.row.status,
      dueAt: wireAt(w.dueAt),
      assigneeId: w.assigneeId,
      needsVisit: w.needsVisit,
      place: w.needsVisit ? w.place : null,
      skill: w.skill,
      estimate: { minutes: w.estimate.minutes, p80: w.estimate.p80, says: w.estimate.says, why: w.estimate.why },
      clocks: clocks.get(w.workId)!.map(clockWire),
    })),
  };
}
