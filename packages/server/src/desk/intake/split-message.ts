import { clearerSubject, ownWords, plainSubject } from '@core/desk';
import { type Id, type Outcome, refuse } from '@core/ground';
import { countOf } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { openTicket } from '../tickets/open-ticket';
import { oweAnew } from '../tickets/merge-ticket';

/** Makes a client's message a ticket of its own, unsorted and linked; it counts from when the message came. */
export async function splitMessage(
  work: Work,
  book: HouseBook,
  messageId: Id<'message'>,
): Promise<Outcome<{ id: Id<'ticket'>; number: number }>> {
  const { tx } = work;
  const message = await tx('message').where({ id: messageId }).forUpdate().first();
  if (!message) return refuse('not-found', 'There is no such message.');
  if (message.direction !== 'in' || message.visibility !== 'public' || message.via === 'call')
    return refuse('not-possible-now', 'Only a message of the client is split off.');
  const n = await countOf(tx('message').where({ ticket_id: message.ticket_id, direction: 'in' }));
  if (n < 2) return refuse('not-possible-now', 'It is the only message of the client here, so there is nothing to split.');
  const old = (await tx('ticket').where({ id: message.ticket_id }).first())!;
  const subject = clearerSubject('', ownWords(message.text)) ?? plainSubject(message.subject || old.subject);
  const fresh = await openTicket(work, book, {
    subject: subject.slice(0, 200),
    clientId: old.client_id,
    contactId: message.author_contact_id ?? old.contact_id,
    senderEmail: message.author_email ?? old.sender_email,
    senderName: message.author_name,
    threadingWhy: [{ rule: `split off #${old.number} by ${work.actor.name}` }],
    linkedTicketId: old.id,
    byCall: false,
    receivedAt: message.at,
  });
  await tx('message').where({ id: messageId }).update({ ticket_id: fresh.id });
  await oweAnew(work, book, { ticketId: old.id, kind: old.kind });
  await work.tell('ticket.split-off', fresh.id, { from: { ticketId: old.id, number: old.number } });
  await work.tell('ticket.message-split-off', old.id, { to: { ticketId: fresh.id, number: fresh.number }, author: message.author_name });
  return { id: fresh.id, number: fresh.number };
}
