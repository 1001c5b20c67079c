import { type Id, type Outcome, refuse } from '@core/ground';
import { isEnded } from '@core/desk';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { refuseMember } from './refuse-member';
import { endOwed, oweFirstReply } from './reply-owed';
import { addFacts, storeClocks, takeBackFact } from '../clocks/ticket-clock-store';

/**
 * Merges a double into another ticket of the same client. Its messages stand there by their time, what is
 * answered to it arrives there, and it is closed as merged, which leaves promise figures.
 */
export async function mergeTicket(
  work: Work,
  book: HouseBook,
  { ticketId, intoId }: { readonly ticketId: Id<'ticket'>; readonly intoId: Id<'ticket'> },
): Promise<Outcome<{ id: Id<'ticket'>; number: number; messages: number }>> {
  const { tx, now } = work;
  if (ticketId === intoId) return refuse('invalid', 'A ticket is no double of itself.', { intoId: 'choose another ticket' });
  const [from, into] = [
    await tx('ticket').where({ id: ticketId }).forUpdate().first(),
    await tx('ticket').where({ id: intoId }).forUpdate().first(),
  ];
  if (!from || !into) return refuse('not-found', 'There is no such ticket.');
  const barred = await whyNotMerge(work, from, into);
  if (barred) return barred;
  const moved = await tx('message')
    .where({ ticket_id: ticketId })
    .update({ ticket_id: intoId, from_ticket_id: tx.raw('coalesce(from_ticket_id, ?)', [ticketId]) });
  await tx('ticket').where({ merged_into_id: ticketId }).update({ merged_into_id: intoId });
  await tx('ticket')
    .where({ id: ticketId })
    .update({
      status: 'closed',
      outcome: 'merged',
      merged_into_id: intoId,
      hold_reason: null,
      closed_at: at(now),
      reply_owed_since: null,
      reply_owed_by: null,
      version: tx.raw('version + 1'),
    });
  if (!isEnded(from.status)) await addFacts(work, ticketId, [{ at: now, is: 'resolved' }]);
  await storeClocks(work, book, { ticketId });
  await oweAnew(work, book, { ticketId: intoId, kind: into.kind });
  await work.tell('ticket.merged', ticketId, { into: { ticketId: intoId, number: into.number } });
  await work.tell('ticket.took-double', intoId, { double: { ticketId, number: from.number }, messages: moved });
  return { id: intoId, number: into.number, messages: moved };
}

async function whyNotMerge(
  work: Work,
  from: Row<'ticket', 'umbrella_id' | 'is_umbrella' | 'merged_into_id' | 'number' | 'client_id' | 'id'>,
  into: Row<'ticket', 'is_umbrella' | 'status' | 'number' | 'client_id'>,
): Promise<Outcome<never> | undefined> {
  const member = await refuseMember(work, { umbrella_id: from.umbrella_id ?? null });
  if (member) return member;
  if (from.is_umbrella || into.is_umbrella) return refuse('not-possible-now', 'An umbrella is no double. Put the ticket under it instead.');
  if (from.merged_into_id) return refuse('not-possible-now', `#${from.number} is merged already.`);
  if (isEnded(into.status)) return refuse('not-possible-now', `#${into.number} is ${into.status}; reopen it first.`);
  if (from.client_id && into.client_id !== from.client_id)
    return refuse('invalid', 'They are of two clients, and neither may read the other.', { intoId: 'a ticket of the same client' });
  const id = from.id;
  const worked = await work.tx('time_entry').where({ ticket_id: id }).whereNull('removed_at').first('id');
  const booked = await work.tx('booking').where({ ticket_id: id }).whereIn('state', ['planned', 'underway']).first('id');
  if (worked || booked)
    return refuse('not-possible-now', `#${from.number} has ${worked ? 'time logged' : 'a booking'}. Merge the other into it instead.`);
  return undefined;
}

/** Takes a merge back: its own messages return, and it stands where it stood, in the queue or unsorted. */
export async function unmergeTicket(
  work: Work,
  book: HouseBook,
  ticketId: Id<'ticket'>,
): Promise<Outcome<{ id: Id<'ticket'>; version: number }>> {
  const { tx } = work;
  const ticket = await tx('ticket').where({ id: ticketId }).forUpdate().first();
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (!ticket.merged_into_id) return refuse('not-possible-now', `#${ticket.number} is not merged.`);
  const into = (await tx('ticket').where({ id: ticket.merged_into_id }).first('id', 'number', 'kind'))!;
  const moved = await tx('message').where({ from_ticket_id: ticketId }).update({ ticket_id: ticketId, from_ticket_id: null });
  const [changed] = await tx('ticket')
    .where({ id: ticketId })
    .update({
      status: ticket.kind === 'unsorted' ? 'new' : 'queued',
      outcome: null,
      merged_into_id: null,
      closed_at: null,
      version: tx.raw('version + 1'),
    })
    .returning(['id', 'version']);
  await takeBackFact(work, ticketId, 'resolved');
  await storeClocks(work, book, { ticketId });
  await oweAnew(work, book, { ticketId, kind: ticket.kind });
  await oweAnew(work, book, { ticketId: into.id, kind: into.kind });
  await work.tell('ticket.unmerged', ticketId, { from: { ticketId: into.id, number: into.number }, messages: moved });
  await work.tell('ticket.double-left', into.id, { double: { ticketId, number: ticket.number } });
  return changed!;
}

/** Messages came or went: what is owed follows from the last that is there. */
export async function oweAnew(
  work: Work,
  book: HouseBook,
  { ticketId, kind }: { readonly ticketId: Id<'ticket'>; readonly kind: string },
): Promise<void> {
  if (kind !== 'unsorted') {
    await endOwed(work, ticketId);
    await oweFirstReply(work, ticketId);
  }
  await storeClocks(work, book, { ticketId });
}
