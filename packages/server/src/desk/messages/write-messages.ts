import { randomUUID } from 'node:crypto';
import { type Status, subjectWithToken } from '@core/desk';
import { formatInstant, holds, type Id, isRefusal, type Outcome, plusSeconds, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { attachUploads } from '../../ground';
import { takeMentions, tellFollowers } from '../followers/followers';

export interface Reply {
  readonly text: string;
  readonly cc: readonly string[];
  /** The status to move to when it has left. */
  readonly then: Status | null;
  /** The newest message the writer saw; null where it doesn't matter. */
  readonly seenMessageId: Id<'message'> | null;
  /** Files that go with it. */
  readonly uploadIds?: readonly Id<'upload'>[];
}

/** Writes to the client. The reply waits a few seconds, can be taken back until then, and counts when it leaves. */
export async function replyToTicket(
  app: App,
  work: Work,
  { ticketId, reply }: { readonly ticketId: Id<'ticket'>; readonly reply: Reply },
): Promise<Outcome<{ id: Id<'message'>; leavesAt: string }>> {
  const ticket = await readThread(work, ticketId);
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (!ticket.to) return refuse('not-possible-now', 'This ticket has no contact to write to. Name one first.');
  const newest = await work
    .tx('message')
    .where({ ticket_id: ticketId, visibility: 'public' })
    .whereNull('taken_back_at')
    .orderBy('at', 'desc')
    .orderBy('seq', 'desc')
    .first('id', 'author_name');
  if (reply.seenMessageId && newest && newest.id !== reply.seenMessageId)
    return refuse('changed-meanwhile', `${newest.author_name} wrote meanwhile. Read that first; your text is kept.`);
  const sent = (await sendInThread(app, work, { ticketId, text: reply.text, cc: reply.cc, then: reply.then }))!;
  const attached = await attachUploads(work, { ticketId, messageId: sent.id, ids: reply.uploadIds ?? [] });
  return isRefusal(attached) ? attached : sent;
}

/** A message that leaves in the thread of a ticket. */
export interface Outgoing {
  readonly ticketId: Id<'ticket'>;
  readonly text: string;
  readonly cc?: readonly string[];
  readonly then?: Status | null;
  /** Part of an update to the members of an umbrella. */
  readonly updateId?: Id<'member_update'>;
  /** An acknowledgement: it ends no clock and no reply owed. */
  readonly automatic?: boolean;
}

/**
 * Writes a message into a ticket's thread; it leaves after the wait, and can be taken back until then.
 * @returns undefined where there is nobody to write to
 */
export async function sendInThread(app: App, work: Work, message: Outgoing): Promise<{ id: Id<'message'>; leavesAt: string } | undefined> {
  const { ticketId } = message;
  const ticket = await readThread(work, ticketId);
  if (!ticket?.to) return undefined;
  const earlier = await work
    .tx('message')
    .where({ ticket_id: ticketId, visibility: 'public' })
    .whereNotNull('message_id')
    .orderBy('at', 'desc')
    .select('message_id')
    .limit(20);
  const id = randomUUID();
  const leavesAt = plusSeconds(work.now, app.config.REPLY_WAIT_SECONDS);
  await work.tx('message').insert({
    id,
    ticket_id: ticketId,
    at: at(work.now),
    direction: 'out',
    visibility: 'public',
    author_person_id: work.actor.personId,
    author_name: work.actor.name,
    to_addresses: [ticket.to],
    cc_addresses: message.cc ?? [],
    subject: subjectWithToken(ticket.subject, ticket),
    text: message.text,
    message_id: `<${id}@${app.house.house.mailFrom.split('@')[1]}>`,
    in_reply_to: earlier[0]?.message_id ?? null,
    reference_ids: earlier.map((m) => m.message_id).reverse(),
    leaves_at: at(leavesAt),
    automatic: message.automatic ?? false,
    update_id: message.updateId ?? null,
    via: work.actor.via,
  });
  await work.enqueue(
    'send-message',
    { messageId: id, then: message.then ?? null },
    { key: `send-message:${id}`, afterSeconds: app.config.REPLY_WAIT_SECONDS },
  );
  await work.emit('ticket', ticketId);
  return { id, leavesAt: formatInstant(leavesAt) };
}

interface Thread {
  readonly number: number;
  readonly secret: string;
  readonly subject: string;
  /** Whom a reply goes to; null where nobody is known. */
  readonly to: string | null;
}

async function readThread(work: Work, ticketId: Id<'ticket'>): Promise<Thread | undefined> {
  const ticket = await work
    .tx('ticket as t')
    .leftJoin('contact as c', 'c.id', 't.contact_id')
    .where('t.id', ticketId)
    .first('t.number', 't.secret', 't.subject', 't.sender_email', 'c.email');
  return ticket
    ? { number: ticket.number, secret: ticket.secret, subject: ticket.subject, to: ticket.email ?? ticket.sender_email }
    : undefined;
}

/** Takes a reply back before it leaves, and gives its text to the composer again. */
export async function takeBackReply(work: Work, messageId: Id<'message'>): Promise<Outcome<{ text: string }>> {
  const message = await work
    .tx('message')
    .where({ id: messageId })
    .forUpdate()
    .first('ticket_id', 'leaving_since', 'left_at', 'taken_back_at', 'text', 'direction', 'author_person_id', 'author_name');
  if (!message || message.direction !== 'out') return refuse('not-found', 'There is no such reply.');
  if (message.left_at !== null) return refuse('not-possible-now', 'The reply has left already.');
  if (message.leaving_since !== null) return refuse('not-possible-now', 'The reply is leaving now: a mail server has it in its hands.');
  const { personId, role } = work.actor;
  if (message.author_person_id !== personId && !(role && holds(role, 'tickets.override')))
    return refuse('not-allowed', `${message.author_name} wrote it; a reply is taken back by who wrote it, or by who manages.`);
  if (message.taken_back_at === null) {
    await work
      .tx('message')
      .where({ id: messageId })
      .update({ taken_back_at: at(work.now) });
    await work.dequeue(`send-message:${messageId}`);
    await work.tell('ticket.reply-taken-back', message.ticket_id, {});
  }
  return { text: message.text };
}

/** Writes what the client never sees. */
export async function addNote(
  work: Work,
  {
    ticketId,
    text,
    uploadIds = [],
  }: { readonly ticketId: Id<'ticket'>; readonly text: string; readonly uploadIds?: readonly Id<'upload'>[] },
): Promise<Outcome<{ id: Id<'message'> }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('id');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const [note] = await work
    .tx('message')
    .insert({
      ticket_id: ticketId,
      at: at(work.now),
      direction: 'note',
      visibility: 'inside',
      author_person_id: work.actor.personId,
      author_name: work.actor.name,
      text,
      via: work.actor.via,
    })
    .returning('id');
  const attached = await attachUploads(work, { ticketId, messageId: note!.id, ids: uploadIds });
  if (isRefusal(attached)) return attached;
  const named = await takeMentions(work, ticketId, text);
  await tellFollowers(work, { ticketId, what: `${work.actor.name} wrote an inside note`, but: named });
  await work.emit('ticket', ticketId);
  return { id: note!.id };
}
