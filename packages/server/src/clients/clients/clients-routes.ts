import { clientFacts, clientRoutes, type ClientForm } from '@core/clients';
import { changesOf, dateOf, type Id, isRefusal, refuse } from '@core/ground';
import { readStory } from '../../app/read-story';
import type { App } from '../../app/app';
import { archiveRow } from '../../app/archive-row';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import { fieldChanges, fieldsToSave, type OwnValues } from '../../desk';
import { listClients, readClient } from './client-read-model';
import { setPromise } from './set-promise';
import { findContacts } from './find-contacts';
import { coordinatesOf } from './coordinates';
import { addContact, editContact } from './edit-contact';

export function bindClients(app: App) {
  const book = app.house;
  const ownFields = (
    work: Work,
    { form, was, clientId }: { readonly form: ClientForm; readonly was: OwnValues; readonly clientId: Id<'client'> | null },
  ) => fieldsToSave(work, book, { on: 'client', given: form.fields, was, clientId, facts: clientFacts(form) });
  return bindRoutes(app, clientRoutes, {
    listClients: ({ db, query }) => listClients(db, query),
    findContacts: async ({ db, query }) => ({ contacts: await findContacts(db, query.q) }),
    getClientStory: async ({ db, params, query }) => ({
      story: await readStory(db, { subject: 'client', id: params.clientId, before: query.before }),
    }),
    getClient: ({ db, params }) => readClient(db, book, params.clientId),
    createClient: async ({ work, body, now, actor }) => {
      const own = actor.divisions ?? app.house.divisionIds;
      const divisionId = body.divisionId ?? own[0]!;
      if (!own.includes(divisionId)) return refuse('invalid', 'There is no such division.', { divisionId: 'one of your divisions' });
      const fields = await ownFields(work, { form: body, was: {}, clientId: null });
      if (isRefusal(fields)) return fields;
      const [row] = await work
        .tx('client')
        .insert({
          ...columns(body),
          fields: JSON.stringify(fields),
          division_id: divisionId,
          number: work.tx.raw(`nextval('client_number')`),
          since: dateOf(now, app.house.house.zone),
        })
        .returning(['id', 'version']);
      await work.tell('client.added', row!.id, { name: body.name });
      return row!;
    },
    setPromise: ({ work, params, version, body }) => setPromise(work, app.house, { clientId: params.clientId, version, body }),
    editClient: async ({ work, params, version, body }) => {
      const client = await work.tx('client').where({ id: params.clientId }).first();
      if (!client) return refuse('not-found', 'There is no such client.');
      const fields = await ownFields(work, { form: body, was: client.fields, clientId: params.clientId });
      if (isRefusal(fields)) return fields;
      const set = { ...columns(body), fields: JSON.stringify(fields) };
      const changed = await changeRow(work, { table: 'client', id: params.clientId, version, set });
      if (isRefusal(changed)) return changed;
      const changes = changesOf(client, columns(body));
      await work.tell('client.changed', params.clientId, {
        changes,
        fields: fieldChanges(book, { on: 'client', was: client.fields, now: fields }),
      });
      return changed;
    },
    archiveClient: async ({ work, params, version, body }) => {
      const open = await work
        .tx('ticket')
        .where({ client_id: params.clientId })
        .whereNotIn('status', ['resolved', 'closed'])
        .first('number', 'subject');
      if (body.archived && open)
        return refuse('not-possible-now', `Ticket ${open.number} (${open.subject}) is open. End what is open, then put the client away.`);
      const unbilled = await work
        .tx('charge')
        .where({ client_id: params.clientId })
        .whereIn('standing', ['proposed', 'approved', 'part billed'])
        .first('id');
      if (body.archived && unbilled)
        return refuse('not-possible-now', 'There are charges not yet invoiced or waived. Settle them, then put the client away.');
      return archiveRow(work, { table: 'client', subject: 'client', id: params.clientId, version, archived: body.archived });
    },
    addSite: async ({ work, params, body }) => {
      const client = await work.tx('client').where({ id: params.clientId }).first('id');
      if (!client) return refuse('not-found', 'There is no such client.');
      const [row] = await work
        .tx('site')
        .insert({ ...body, client_id: params.clientId })
        .returning(['id', 'version']);
      await work.tell('client.site-added', params.clientId, { siteId: row!.id, name: body.name });
      return row!;
    },
    editSite: async ({ work, params, version, body }) => {
      const site = await work.tx('site').where({ id: params.siteId }).first();
      if (!site) return refuse('not-found', 'There is no such site.');
      const changed = await changeRow(work, { table: 'site', id: params.siteId, version, set: body });
      if (isRefusal(changed)) return changed;
      const changes = changesOf({ ...site, ...coordinatesOf(site) }, body);
      await work.tell('client.site-changed', site.client_id, { siteId: params.siteId, name: body.name, changes });
      return changed;
    },
    addContact: ({ work, params, body }) => addContact(work, book, { clientId: params.clientId, form: body }),
    editContact: ({ work, params, version, body }) => editContact(work, book, { contactId: params.contactId, version, form: body }),
    archiveContact: async ({ work, params, version, body }) => {
      const contact = await work.tx('contact').where({ id: params.contactId }).first('client_id', 'email');
      if (!contact) return refuse('not-found', 'There is no such contact.');
      const taken = await work
        .tx('contact')
        .whereRaw('lower(email) = lower(?)', [contact.email])
        .whereNull('archived_at')
        .whereNot({ id: params.contactId })
        .first('name');
      if (!body.archived && taken) return refuse('already-used', `${taken.name} has the address ${contact.email} now.`);
      const done = await archiveRow(work, { table: 'contact', subject: 'contact', id: params.contactId, version, archived: body.archived });
      if (!isRefusal(done)) await work.emit('client', contact.client_id);
      return done;
    },
  });
}

function columns(form: ClientForm) {
  return {
    name: form.name,
    domains: form.domains.split(/, ?/),
    zone: form.zone,
    street: form.street,
    city: form.city,
    postcode: form.postcode,
    country: form.country,
    tax_number: form.taxNumber,
    invoice_email: form.invoiceEmail,
    payment_days: form.paymentDays,
    tax_exempt: form.taxExempt,
  };
}
