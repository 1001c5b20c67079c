import { dateOf, daysBetween, formatInstant, type Id, type Instant, type Outcome, refuse } from '@core/ground';
import { isEnded } from '@core/desk';
import { at, type Db } from '../../app/database';
import { byContact, whoColumns } from '../../app/actor';
import { type Work, workAs } from '../../app/work';
import type { HouseBook } from '../../house';
import { tellFollowers } from '../followers/followers';
import { endClientHoldBefore } from './end-client-hold-before';
import { surfaceOwed } from './surface-owed';
import { moveByFact } from './move-ticket';

type Done = Outcome<{ id: Id<'ticket'>; version: number }>;

/** What a client's message means for the ticket beyond its text. */
export interface ClientMessage {
  readonly ticketId: Id<'ticket'>;
  readonly author: string;
  /** The contact who wrote, where they are one. */
  readonly contactId: Id<'contact'> | null;
  /** Plainly thanks: recognised and waived by itself. */
  readonly thanks: boolean;
}

/**
 * A client's public message ends a hold for the client, reopens what was resolved and is owed a reply.
 * Plain thanks end the hold too, but reopen nothing and are waived by themselves, on record.
 */
export async function takeClientMessage(work: Work, book: HouseBook, message: ClientMessage): Promise<void> {
  const { ticketId, author, contactId, thanks } = message;
  const ticket = (await work
    .tx('ticket')
    .where({ id: ticketId })
    .first('status', 'hold_reason', 'kind', 'reply_owed_since', 'umbrella_id'))!;
  if (ticket.umbrella_id) await endClientHoldBefore(work, ticketId);
  if (ticket.kind !== 'unsorted' || ticket.umbrella_id) {
    const heldForClient = ticket.status === 'on hold' && ticket.hold_reason === 'client';
    if (heldForClient || (isEnded(ticket.status) && !thanks)) await moveByFact(work, book, { ticketId, to: 'queued' });
    if (ticket.reply_owed_since === null && thanks)
      await record(workAs(work, byContact({ id: contactId, name: author }, 'mail')), ticketId, {
        did: 'thanks',
        reason: 'plainly thanks',
        since: work.now,
        by: author,
      });
    else if (ticket.reply_owed_since === null) await owe(work, { ticketId, since: work.now, by: author });
  }
  await work
    .tx('ticket')
    .where({ id: ticketId })
    .update({ changed_at: at(work.now) });
  await tellFollowers(work, { ticketId, what: `${author} wrote` });
}

/** A sorted ticket whose last public word is the client's owes a reply since then. */
export async function oweFirstReply(work: Work, ticketId: Id<'ticket'>): Promise<void> {
  const last = await work
    .tx('message')
    .where({ ticket_id: ticketId, visibility: 'public', automatic: false })
    .whereNull('taken_back_at')
    .whereNull('undelivered_at')
    .whereNull('third_party')
    .where((q) => void q.whereNull('call_outcome').orWhere('call_outcome', 'spoke'))
    .orderBy([
      { column: 'at', order: 'desc' },
      { column: 'seq', order: 'desc' },
    ])
    .first('direction', 'at', 'author_name');
  if (last?.direction === 'in') await owe(work, { ticketId, since: last.at, by: last.author_name });
}

/** Public contact by a person: nothing is owed any more. */
export async function endOwed(work: Work, ticketId: Id<'ticket'>): Promise<void> {
  await work.tx('ticket').where({ id: ticketId }).update({ reply_owed_since: null, reply_owed_by: null });
  // Whoever was rung about it need not be rung again.
  await work.tx('escalation').where({ ticket_id: ticketId }).whereNotNull('again_at').update({ again_at: null });
  await surfaceOwed(work, ticketId);
}

async function owe(
  work: Work,
  { ticketId, since, by }: { readonly ticketId: Id<'ticket'>; readonly since: Instant; readonly by: string },
): Promise<void> {
  await work
    .tx('ticket')
    .where({ id: ticketId })
    .update({ reply_owed_since: at(since), reply_owed_by: by });
  await surfaceOwed(work, ticketId);
}

interface Waiving {
  readonly did: 'waived' | 'thanks' | 'taken back';
  readonly reason: string;
  readonly since: Instant;
  readonly by: string | null;
}

async function record(work: Work, ticketId: Id<'ticket'>, { did, reason, since, by }: Waiving): Promise<void> {
  const owed = { owed_since: at(since), owed_by: by };
  await work.tx('waiver').insert({ ticket_id: ticketId, at: at(work.now), ...whoColumns(work.actor), did, reason, ...owed });
}

/** Waives the reply that is owed. Neither an inside note nor a change of status does that. */
export async function waiveReply(work: Work, ticketId: Id<'ticket'>, reason: string): Promise<Done> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('reply_owed_since', 'reply_owed_by');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (ticket.reply_owed_since === null) return refuse('not-possible-now', 'No reply is owed on this ticket.');
  await record(work, ticketId, { did: 'waived', reason, since: ticket.reply_owed_since, by: ticket.reply_owed_by });
  await endOwed(work, ticketId);
  await work.tell('ticket.reply-waived', ticketId, { reason });
  return touched(work, ticketId);
}

/** Takes the latest waiver back. After thanks the ticket reopens as of the message. */
export async function unwaiveReply(work: Work, book: HouseBook, ticketId: Id<'ticket'>): Promise<Done> {
  const waiver = await standingWaiver(work.tx, ticketId);
  if (!waiver) return refuse('not-possible-now', 'Nothing was waived on this ticket since the last contact.');
  await record(work, ticketId, { did: 'taken back', reason: waiver.reason, since: waiver.owedSince, by: waiver.owedBy });
  await owe(work, { ticketId, since: waiver.owedSince, by: waiver.owedBy ?? 'the client' });
  const { status } = (await work.tx('ticket').where({ id: ticketId }).first('status'))!;
  if (waiver.thanks && isEnded(status)) await moveByFact(work, book, { ticketId, to: 'queued', when: waiver.owedSince });
  await work.tell('ticket.reply-waiver-taken-back', ticketId, { reason: waiver.reason });
  return touched(work, ticketId);
}

async function touched(work: Work, ticketId: Id<'ticket'>): Promise<{ id: Id<'ticket'>; version: number }> {
  const [row] = await work
    .tx('ticket')
    .where({ id: ticketId })
    .update({ version: work.tx.raw('version + 1'), changed_at: at(work.now) })
    .returning(['id', 'version']);
  return row!;
}

export interface Waiver {
  readonly at: Instant;
  readonly who: string;
  readonly reason: string;
  readonly thanks: boolean;
  readonly owedSince: Instant;
  readonly owedBy: string | null;
}

/** The latest waiver, where it was not taken back and nothing was said to or by the client since. */
export async function standingWaiver(db: Db, ticketId: Id<'ticket'>): Promise<Waiver | undefined> {
  const last = await db('waiver').where({ ticket_id: ticketId }).orderBy('id', 'desc').first();
  if (!last || last.did === 'taken back') return undefined;
  const since = await db('message')
    .where({ ticket_id: ticketId, visibility: 'public' })
    .whereNull('taken_back_at')
    .where('at', '>', at(last.at))
    .first('id');
  if (since) return undefined;
  return {
    at: last.at,
    who: last.who_name,
    reason: last.reason,
    thanks: last.did === 'thanks',
    owedSince: last.owed_since,
    owedBy: last.owed_by,
  };
}

/** Whether a ticket closed so long ago that a reply opens a new one. */
export function isClosedForGood(book: HouseBook, ticket: { status: string; closed_at: Instant | null }, now: Instant): boolean {
  if (ticket.status !== 'closed' || ticket.closed_at === null) return false;
  return daysBetween(dateOf(ticket.closed_at, book.house.zone), dateOf(now, book.house.zone)) > book.house.tickets.reopenDays;
}

/** How many replies are owed, by desk and by who has the ticket, the longest waiting first. */
export async function readOwed(db: Db) {
  const group = async (table: 'desk' | 'person', column: string, none: string) => {
    const rows = await db('ticket as t')
      .leftJoin(`${table} as g`, 'g.id', `t.${column}`)
      .whereNotNull('t.reply_owed_since')
      .whereNull('t.umbrella_id')
      .groupBy('g.id', 'g.name')
      .orderByRaw('min(t.reply_owed_since)')
      .select('g.id', 'g.name', db.raw('count(*) as count'), db.raw('min(t.reply_owed_since) as oldest'));
    return rows.map((r) => ({ id: r.id, name: r.name ?? none, count: Number(r.count), oldest: formatInstant(r.oldest) }));
  };
  return { desks: await group('desk', 'desk_id', 'no desk'), people: await group('person', 'assignee_id', 'nobody') };
}
