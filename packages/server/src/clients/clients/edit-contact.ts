import { contactFacts, type ContactForm } from '@core/clients';
import { changesOf, type Id, isRefusal, type Outcome, type Refusal, refuse } from '@core/ground';
import { changeRow } from '../../app/change-row';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { fieldChanges, fieldsToSave, type OwnValues } from '../../desk';
import type { HouseBook } from '../../house';
type Done = Outcome<{ id: Id<'contact'>; version: number }>;

export async function addContact(
  work: Work,
  book: HouseBook,
  { clientId, form }: { readonly clientId: Id<'client'>; readonly form: ContactForm },
): Promise<Done> {
  const wrong = await check(work, { clientId, form, contactId: undefined });
  if (wrong) return wrong;
  const fields = await ownFields(work, book, { clientId, form, was: {} });
  if (isRefusal(fields)) return fields;
  const [row] = await work
    .tx('contact')
    .insert({ ...columns(form), fields: JSON.stringify(fields), client_id: clientId, since: at(work.now) })
    .returning(['id', 'version']);
  await work.tell('client.contact-added', clientId, { contactId: row!.id, name: form.name });
  return row!;
}

export interface ContactChange {
  readonly contactId: Id<'contact'>;
  readonly version: number;
  readonly form: ContactForm;
}

export async function editContact(work: Work, book: HouseBook, { contactId, version, form }: ContactChange): Promise<Done> {
  const contact = await work.tx('contact').where({ id: contactId }).first();
  if (!contact) return refuse('not-found', 'There is no such contact.');
  const wrong = await check(work, { clientId: contact.client_id, form, contactId });
  if (wrong) return wrong;
  const fields = await ownFields(work, book, { clientId: contact.client_id, form, was: contact.fields });
  if (isRefusal(fields)) return fields;
  const set = { ...columns(form), fields: JSON.stringify(fields) };
  const changed = await changeRow(work, { table: 'contact', id: contactId, version, set });
  if (isRefusal(changed)) return changed;
  await work.tell('client.contact-changed', contact.client_id, {
    contactId,
    name: form.name,
    changes: changesOf(contact, columns(form)),
    fields: fieldChanges(book, { on: 'contact', was: contact.fields, now: fields }),
  });
  return changed;
}

interface OwnFieldsOf {
  readonly clientId: Id<'client'>;
  readonly form: ContactForm;
  readonly was: OwnValues;
}

function ownFields(work: Work, book: HouseBook, { clientId, form, was }: OwnFieldsOf): Promise<Outcome<OwnValues>> {
  return fieldsToSave(work, book, { on: 'contact', given: form.fields, was, clientId, facts: contactFacts({ ...form, clientId }) });
}

async function check(
  work: Work,
  {
    clientId,
    form,
    contactId,
  }: { readonly clientId: Id<'client'>; readonly form: ContactForm; readonly contactId: Id<'contact'> | undefined },
): Promise<Refusal | undefined> {
  const client = await work.tx('client').where({ id: clientId }).first('id');
  if (!client) return refuse('not-found', 'There is no such client.');
  const taken = await work
    .tx('contact')
    .whereRaw('lower(email) = ?', [form.email])
    .whereNull('archived_at')
    .modify((q) => contactId && void q.whereNot({ id: contactId }))
    .first('name');
  if (taken) return refuse('already-used', `${taken.name} has this address already.`, { email: 'an address that no other contact has' });
  const site = form.siteId ? await work.tx('site').where({ id: form.siteId, client_id: clientId }).first('id') : true;
  return site ? undefined : refuse('invalid', 'The site is not of this client.', { siteId: 'choose a site of the client' });
}

function columns({ siteId, fields: _, ...rest }: ContactForm) {
  return { ...rest, site_id: siteId };
}
