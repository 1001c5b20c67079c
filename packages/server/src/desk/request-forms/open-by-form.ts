import { byContact } from '../../app/actor';
import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import { type Request, type FieldValues, missingFields, type OwnField } from '@core/desk';
import { at } from '../../app/database';
import { type Work, workAs } from '../../app/work';
import type { HouseBook } from '../../house';
import { conditionFacts } from '../tickets/condition-facts';
import { readFields } from '../own-fields/record-fields';
import { openTicket } from '../tickets/open-ticket';

export interface FilledForm {
  readonly formId: Id<'request_form'>;
  readonly asks: readonly OwnField[];
  readonly request: Request;
  readonly values: FieldValues;
}

/** Opens an unsorted ticket for what somebody outside wrote into a form; a contact is known by their address. */
export async function openByForm(work: Work, book: HouseBook, filled: FilledForm): Promise<Outcome<{ number: number }>> {
  const { request } = filled;
  const contact = await work
    .tx('contact')
    .whereRaw('lower(email) = ?', [request.email])
    .whereNull('archived_at')
    .first('id', 'client_id', 'name');
  const fields = await readFields(work, book, { on: 'ticket', given: filled.values, was: {}, clientId: contact?.client_id ?? null });
  if (isRefusal(fields)) return fields;
  const form = (await work.tx('request_form').where({ id: filled.formId }).first('name', 'kind', 'category_id'))!;
  const facts = conditionFacts(
    {
      kind: form.kind ?? 'unsorted',
      status: 'new',
      category_id: form.category_id,
      subject: request.subject,
      asset_id: null,
      is_umbrella: false,
      fields,
    },
    0,
  );
  const missing = missingFields(filled.asks, facts, 'opening');
  if (missing.length)
    return refuse(
      'invalid',
      `Please fill ${missing.map((f) => f.name).join(', ')}.`,
      Object.fromEntries(missing.map((f) => [f.id, 'fill this'])),
    );
  const ticket = await openTicket(work, book, {
    subject: request.subject,
    clientId: contact?.client_id ?? null,
    contactId: contact?.id ?? null,
    senderEmail: request.email,
    senderName: contact?.name ?? request.name,
    threadingWhy: null,
    linkedTicketId: null,
    byCall: false,
  });
  await work
    .tx('ticket')
    .where({ id: ticket.id })
    .update({ fields: JSON.stringify(fields), request_form_id: filled.formId });
  await work.tx('message').insert({
    ticket_id: ticket.id,
    at: at(work.now),
    direction: 'in',
    visibility: 'public',
    author_contact_id: contact?.id ?? null,
    author_name: request.name,
    author_email: request.email,
    text: request.text,
    via: 'form',
  });
  const asker = workAs(work, byContact({ id: contact?.id ?? null, name: request.name }, 'page'));
  await asker.tell('ticket.opened', ticket.id, { how: 'form', form: form.name });
  return { number: ticket.number };
}
