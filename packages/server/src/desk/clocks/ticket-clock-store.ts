import { CLOCK_NAMES, replayClock, type ClockFact, type ClockReading, type PromiseVersion } from '@core/desk';
import type { Id, Instant } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';

/** What a ticket's clocks need besides its facts. */
export interface ClockedTicket {
  readonly id: string;
  readonly promiseVersionId: Id<'promise_version'>;
  readonly clientCalendarId: Id<'calendar'> | null;
}

interface StoredTicket extends ClockedTicket {
  readonly isMember: boolean;
}

async function clockedTicket(db: Db, ticketId: Id<'ticket'>): Promise<StoredTicket> {
  const [row] = await db('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .where('t.id', ticketId)
    .select('t.id', 't.promise_version_id', 't.umbrella_id', 'c.calendar_id');
  return {
    id: row.id,
    promiseVersionId: row.promise_version_id,
    clientCalendarId: row.calendar_id,
    isMember: row.umbrella_id !== null,
  };
}

/** Writes what happened; facts are never changed, and a fact taken back is named by a later one. */
export async function addFacts(work: Work, ticketId: Id<'ticket'>, facts: readonly ClockFact[]): Promise<number[]> {
  if (!facts.length) return [];
  const rows = facts.map((fact) => factRow(ticketId, fact, work.now));
  const added = await work
    .tx('ticket_fact')
    .insert(rows.map((row) => ({ ...row, detail: JSON.stringify(row.detail) })))
    .returning('id');
  return added.map((row) => row.id as number);
}

export function factRow(ticketId: Id<'ticket'>, { at: when, is, ...detail }: ClockFact, now: Instant) {
  return { ticket_id: ticketId, at: at(when), fact: is, detail, written_at: at(now) };
}

/** Takes back the latest fact of a kind, as undo does. */
export async function takeBackFact(work: Work, ticketId: Id<'ticket'>, is: ClockFact['is']): Promise<void> {
  const facts = await factRows(work.tx, [ticketId]);
  const latest = facts.filter((row) => row.fact === is).at(-1);
  if (latest) await takeBackFacts(work, ticketId, [latest.id]);
}

/** Facts taken back are as if they had never been. */
export async function takeBackFacts(work: Work, ticketId: Id<'ticket'>, factIds: readonly number[]): Promise<void> {
  for (const factId of factIds)
    await work.tx('ticket_fact').insert({
      ticket_id: ticketId,
      at: at(work.now),
      fact: 'taken back',
      detail: JSON.stringify({ factId }),
      written_at: at(work.now),
    });
}

interface FactRow {
  readonly id: number;
  readonly ticket_id: string;
  readonly at: Instant;
  readonly fact: string;
  readonly detail: Record<string, unknown>;
}

async function factRows(db: Db, ticketIds: readonly Id<'ticket'>[]): Promise<FactRow[]> {
  const rows: FactRow[] = await db('ticket_fact')
    .whereIn('ticket_id', ticketIds)
    .orderBy(['at', 'id'])
    .select('id', 'ticket_id', 'at', 'fact', 'detail');
  const gone = new Set(rows.filter((row) => row.fact === 'taken back').map((row) => row.detail['factId'] as number));
  return rows.filter((row) => row.fact !== 'taken back' && !gone.has(row.id));
}

interface PromiseAt {
  readonly versionId: Id<'promise_version'>;
  readonly calendarId: Id<'calendar'> | null;
}

function factOf(book: HouseBook, row: FactRow): ClockFact {
  if (row.fact !== 'promise') return { at: row.at, is: row.fact, ...row.detail } as ClockFact;
  const { versionId, calendarId } = row.detail as unknown as PromiseAt;
  return { at: row.at, is: 'promise', promise: book.promise(versionId, calendarId) };
}

/** The promise a ticket was opened with: what the first change of it changed from, else what it has now. */
function openingPromise(book: HouseBook, ticket: ClockedTicket, rows: readonly FactRow[]): PromiseVersion {
  const first = rows.find((row) => row.fact === 'promise')?.detail['was'] as PromiseAt | undefined;
  return first ? book.promise(first.versionId, first.calendarId) : book.promise(ticket.promiseVersionId, ticket.clientCalendarId);
}

/** Reads the clocks of many tickets at once, as of `now`. */
export async function readClocks(
  db: Db,
  book: HouseBook,
  { tickets, now }: { readonly tickets: readonly ClockedTicket[]; readonly now: Instant },
): Promise<Map<string, ClockReading[]>> {
  const byTicket = new Map<string, FactRow[]>(tickets.map((t) => [t.id, []]));
  for (const row of await factRows(db, [...byTicket.keys()])) byTicket.get(row.ticket_id)!.push(row);
  return new Map(
    tickets.map((ticket) => {
      const rows = byTicket.get(ticket.id)!;
      const facts = rows.map((row) => factOf(book, row));
      const promise = openingPromise(book, ticket, rows);
      return [ticket.id, replayAll(promise, facts, now)];
    }),
  );
}

/** Every clock that has begun by what happened. */
export function replayAll(promise: PromiseVersion, facts: readonly ClockFact[], now: Instant): ClockReading[] {
  return CLOCK_NAMES.map((name) => replayClock({ clock: name, promise, facts, now })).filter((r): r is ClockReading => r !== undefined);
}

/**
 * Stores what the clocks say after an event, and the ticket's next due instant; in the event's transaction.
 * @param touch false where only time passed, so that the ticket does not count as changed
 */
export async function storeClocks(
  work: Work,
  book: HouseBook,
  { ticketId, touch = true }: { readonly ticketId: Id<'ticket'>; readonly touch?: boolean },
): Promise<void> {
  const ticket = await clockedTicket(work.tx, ticketId);
  const readings = (await readClocks(work.tx, book, { tickets: [ticket], now: work.now })).get(ticketId)!;
  await work.tx
    .with(
      'clocks',
      work
        .tx('ticket_clock')
        .insert(readings.map((r) => clockRow(ticketId, r)))
        .onConflict(['ticket_id', 'clock'])
        .merge(),
    )
    .from('ticket')
    .where({ id: ticketId })
    // What is a member's to do is its umbrella's.
    .update({ due_at: ticket.isMember ? null : nextDue(readings), ...(touch ? { changed_at: at(work.now) } : {}) });
}

export function clockRow(ticketId: Id<'ticket'>, reading: ClockReading): Record<string, unknown> {
  const { state } = reading;
  return {
    ticket_id: ticketId,
    clock: reading.clock,
    state: state.is,
    due_at: state.is === 'running' && state.due !== 'never' ? at(state.due) : null,
    missed_at: 'missedAt' in state ? at(state.missedAt) : null,
    ended_at: state.is === 'met' ? at(state.at) : state.is === 'missed and ended' ? at(state.endedAt) : null,
    elapsed_seconds: reading.elapsed,
    target_seconds: reading.target,
    runs_met: reading.past.filter((r) => r.missedAt === undefined).length,
    runs_missed: reading.past.filter((r) => r.missedAt !== undefined).length,
    warn_at: reading.warns ? at(reading.warns.at) : null,
    warn_percent: reading.warns?.percent ?? null,
  };
}

/** The instant a list sorts by: the earliest that is due or was missed among clocks that still run. */
export function nextDue(readings: readonly ClockReading[]): string | null {
  const dues: number[] = [];
  for (const { state } of readings) {
    if (state.is === 'running' && state.due !== 'never') dues.push(state.due);
    if (state.is === 'missed and running') dues.push(state.missedAt);
  }
  return dues.length ? at(Math.min(...dues) as Instant) : null;
}
