import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import type { NewTicketForm } from '@core/desk';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { askForFee } from '../flat-fees/ask-for-fee';
import { setFee } from '../flat-fees/ticket-fee';
import { readFields } from '../own-fields/record-fields';
import { followTemplate } from '../templates/follow-template';
import { openTicket } from '../tickets/open-ticket';

/** Opens a ticket for somebody, on the phone or not, perhaps as a flat-fee job; it lands unsorted like all others. */
export async function openByHand(
  app: App,
  work: Work,
  form: NewTicketForm,
): Promise<Outcome<{ id: Id<'ticket'>; version: number; number: number; routed: boolean }>> {
  const contact = await work.tx('contact').where({ id: form.contactId, client_id: form.clientId }).first('name', 'email');
  if (!contact) return refuse('invalid', 'The contact is not of this client.', { contactId: 'choose a contact of the client' });
  const ticket = await openTicket(work, app.house, {
    subject: form.subject,
    clientId: form.clientId,
    contactId: form.contactId,
    senderEmail: contact.email,
    senderName: contact.name,
    threadingWhy: null,
    linkedTicketId: null,
    byCall: form.byCall,
  });
  await work.tx('message').insert({
    ticket_id: ticket.id,
    at: at(work.now),
    direction: 'note',
    visibility: 'inside',
    author_person_id: work.actor.personId,
    author_name: work.actor.name,
    text: form.text,
    via: form.byCall ? 'call' : work.actor.via,
  });
  const fields = await readFields(work, app.house, { on: 'ticket', given: form.fields ?? [], was: {}, clientId: form.clientId });
  if (isRefusal(fields)) return fields;
  await work
    .tx('ticket')
    .where({ id: ticket.id })
    .update({ fields: JSON.stringify(fields) });
  await work.tell('ticket.opened', ticket.id, { how: form.byCall ? 'call' : 'hand', whom: contact.name });
  if (form.feeId) {
    const set = await setFee(work, app.house, { ticketId: ticket.id, choice: { feeId: form.feeId, quantity: form.feeQuantity } });
    if (isRefusal(set)) return set;
    const asked = set.state === 'asked' ? await askForFee(app, work, ticket.id) : {};
    if (isRefusal(asked)) return asked;
  }
  const followed = form.templateId
    ? await followTemplate(work, app.house, {
        templateId: form.templateId,
        ticket: {
          ticketId: ticket.id,
          clientId: form.clientId,
          contactId: form.contactId,
          fields: form.fields ?? [],
        },
      })
    : { routed: false };
  if (isRefusal(followed)) return followed;
  const { version } = (await work.tx('ticket').where({ id: ticket.id }).first('version'))!;
  return { id: ticket.id, version, number: ticket.number, routed: followed.routed };
}
