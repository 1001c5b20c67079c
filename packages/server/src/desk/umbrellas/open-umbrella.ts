import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import { priorityOf, type UmbrellaForm } from '@core/desk';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { openTicket } from '../tickets/open-ticket';
import { addFacts, storeClocks } from '../clocks/ticket-clock-store';
import { joinUmbrella } from './join-umbrella';

/** Opens an umbrella over tickets: a ticket of the provider's own, sorted from the first second, with no contact. */
export async function openUmbrella(
  work: Work,
  book: HouseBook,
  form: Omit<UmbrellaForm, 'tell'>,
): Promise<Outcome<{ id: Id<'ticket'>; number: number }>> {
  const desk = await work.tx('desk').where({ id: form.deskId }).first('name');
  if (!desk) return refuse('invalid', 'There is no such desk.', { deskId: 'choose one of the desks' });
  const opened = await openTicket(work, book, {
    subject: form.subject,
    clientId: null,
    contactId: null,
    senderEmail: null,
    senderName: null,
    threadingWhy: null,
    linkedTicketId: null,
    byCall: false,
  });
  const like = await work
    .tx('ticket')
    .whereIn('id', form.memberIds)
    .whereNotNull('category_id')
    .orderBy('received_at')
    .first('category_id');
  const { priority } = priorityOf({
    matrix: book.house.tickets.matrix,
    impact: form.impact,
    urgency: form.urgency,
    priorityContact: false,
  });
  await work
    .tx('ticket')
    .where({ id: opened.id })
    .update({
      is_umbrella: true,
      kind: form.kind,
      impact: form.impact,
      urgency: form.urgency,
      priority,
      desk_id: form.deskId,
      line: 'first',
      category_id: like?.category_id ?? null,
      status: 'queued',
    });
  await addFacts(work, opened.id, [
    { at: work.now, is: 'priority', priority },
    { at: work.now, is: 'routed' },
  ]);
  await storeClocks(work, book, { ticketId: opened.id });
  await work.tell('ticket.opened', opened.id, { how: 'umbrella', desk: desk.name, priority });
  const joined = await joinUmbrella(work, book, { umbrellaId: opened.id, form });
  return isRefusal(joined) ? joined : { id: opened.id, number: opened.number };
}
