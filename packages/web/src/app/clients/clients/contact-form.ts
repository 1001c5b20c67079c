import { computed, inject, type Signal } from '@angular/core';
import { map } from 'rxjs';
import {
  clientRoutes,
  contactFacts,
  type ContactForm,
  contactFormSchema,
  type ClientWire,
  type ContactWire,
  type SiteWire,
} from '@core/clients';
import type { Id } from '@core/ground';
import { fieldChoices, fieldsOn, recordLines, withFieldValues } from '../../desk';
import { Api } from '../../shell/api';
import type { Line, RecordForm } from '../../ui/record-form';

export function contactLines(sites: readonly SiteWire[]): readonly Line[] {
  return [
    { name: 'name', label: 'Name' },
    { name: 'email', label: 'Mail address' },
    { name: 'phone', label: 'Phone', placeholder: '+353 20 91' },
    { name: 'title', label: 'What they do' },
    { name: 'siteId', label: 'Site', kind: 'choice', none: 'none', options: sites.map((s) => ({ value: s.id, label: s.name })) },
    { name: 'priority', label: 'Priority contact: raises a ticket one level', kind: 'yes' },
  ];
}

const FRESH = { priority: false, phone: null, title: null, siteId: null, fields: [] };

/** The forms that add and change a client's contacts; called where injection is possible. */
export function contactForms(clientId: Signal<string | null>) {
  const api = inject(Api);
  const fields = fieldsOn('contact');
  const choices = fieldChoices(fields, clientId);
  const read = (clientId: Id<'client'>) => api.call(clientRoutes.getClient, { params: { clientId } });
  return {
    /** Own fields of contacts, as lines after those that every contact has. */
    ownLines: computed((): readonly Line[] =>
      recordLines(fields(), {
        on: 'contact',
        factsOf: (values) => contactFacts({ ...(values as unknown as ContactForm), clientId: clientId() ?? '' }),
        choices: choices(),
      }),
    ),
    addContact: (client: ClientWire): RecordForm<typeof contactFormSchema> => ({
      schema: contactFormSchema,
      initial: FRESH,
      draft: `new-contact.${client.id}`,
      does: 'Add the contact',
      save: (body) => api.call(clientRoutes.addContact, { params: { clientId: client.id }, body }),
    }),
    changeContact: (client: ClientWire, contact: ContactWire): RecordForm<typeof contactFormSchema> => ({
      schema: contactFormSchema,
      initial: withFieldValues(contact),
      draft: `contact.${contact.id}`,
      does: 'Save',
      version: contact.version,
      save: (body, version) => api.call(clientRoutes.editContact, { params: { contactId: contact.id }, version: version!, body }),
      stored: () => read(client.id).pipe(map((c) => withFieldValues(c.contacts.find((k) => k.id === contact.id) ?? contact))),
    }),
  };
}
