import { type Id, type Outcome, parseInstant, refuse } from '@core/ground';
import type { CallForm } from '@core/desk';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { addChecklistItem } from '../tickets/checklist';
import { endOwed } from '../tickets/reply-owed';
import { addFacts, storeClocks } from '../clocks/ticket-clock-store';

/**
 * Writes a call down. Where the two spoke it is public contact at the time it was, and takes its place by
 * that; a call that reached nobody is shown and counts for nothing.
 */
export async function writeCall(
  work: Work,
  book: HouseBook,
  { ticketId, call }: { readonly ticketId: Id<'ticket'>; readonly call: CallForm },
): Promise<Outcome<{ id: Id<'message'> }>> {
  const ticket = await work
    .tx('ticket as t')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .where('t.id', ticketId)
    .first('t.received_at', 't.reply_owed_since', 't.sender_name', 'k.name');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const when = call.at ? parseInstant(call.at) : work.now;
  if (when > work.now) return refuse('invalid', 'A call that is still to come is no call yet.', { at: 'a time that has passed' });
  if (when < ticket.received_at)
    return refuse('invalid', 'The call was before the ticket was received.', { at: 'a time after the receipt' });
  const spoke = call.outcome === 'spoke';
  const other = ticket.name ?? ticket.sender_name ?? 'the client';
  const [row] = await work
    .tx('message')
    .insert({
      ticket_id: ticketId,
      at: at(when),
      direction: call.way,
      visibility: spoke ? 'public' : 'inside',
      author_person_id: work.actor.personId,
      author_name: work.actor.name,
      text: call.text,
      via: 'call',
      call_outcome: call.outcome,
      left_at: at(when),
    })
    .returning('id');
  if (spoke) {
    await addFacts(work, ticketId, [{ at: when, is: 'public-contact' }]);
    if (ticket.reply_owed_since !== null && ticket.reply_owed_since <= when) await endOwed(work, ticketId);
  }
  await storeClocks(work, book, { ticketId });
  await work.tell('ticket.called', ticketId, { outcome: call.outcome, whom: other, writtenLater: when < work.now - 60 });
  if (call.callBackAt) {
    const item = { text: `Call ${other} back`, ownerId: work.actor.personId, dueAt: call.callBackAt };
    await addChecklistItem(work, ticketId, item);
  }
  return { id: row!.id };
}
