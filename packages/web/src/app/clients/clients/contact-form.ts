import { inject } from '@angular/core';
import { map } from 'rxjs';
import { clientRoutes, contactFormSchema, siteFormSchema, type ClientWire, type ContactWire, type SiteWire } from '@core/clients';
import { Api } from '../../shell/api';
import type { Line, RecordForm } from '../../ui/record-form';

export const SITE_LINES: readonly Line[] = [
  { name: 'name', label: 'Name' },
  { name: 'street', label: 'Street' },
  { name: 'city', label: 'City' },
  { name: 'postcode', label: 'Postcode' },
  { name: 'latitude', label: 'Degrees north', placeholder: '52.26' },
  { name: 'longitude', label: 'Degrees east', placeholder: '-7.11' },
  { name: 'directions', label: 'How to get in', placeholder: 'ring at the side door', wide: true },
];

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

const FRESH = { priority: false, phone: null, title: null, siteId: null };

/** The forms that add and change a client's contacts and sites; called where injection is possible. */
export function contactForms() {
  const api = inject(Api);
  const read = (clientId: string) => api.call(clientRoutes.getClient, { params: { clientId } });
  return {
    addContact: (client: ClientWire): RecordForm<typeof contactFormSchema> => ({
      schema: contactFormSchema,
      initial: FRESH,
      draft: `new-contact.${client.id}`,
      does: 'Add the contact',
      save: (body) => api.call(clientRoutes.addContact, { params: { clientId: client.id }, body }),
    }),
    changeContact: (client: ClientWire, contact: ContactWire): RecordForm<typeof contactFormSchema> => ({
      schema: contactFormSchema,
      initial: { ...contact },
      draft: `contact.${contact.id}`,
      does: 'Save',
      version: contact.version,
      save: (body, version) => api.call(clientRoutes.editContact, { params: { contactId: contact.id }, version: version!, body }),
      stored: () => read(client.id).pipe(map((c) => c.contacts.find((k) => k.id === contact.id) ?? contact)),
    }),
    addSite: (client: ClientWire): RecordForm<typeof siteFormSchema> => ({
      schema: siteFormSchema,
      initial: {},
      draft: `new-site.${client.id}`,
      does: 'Add the site',
      save: (body) => api.call(clientRoutes.addSite, { params: { clientId: client.id }, body }),
    }),
    changeSite: (client: ClientWire, site: SiteWire): RecordForm<typeof siteFormSchema> => ({
      schema: siteFormSchema,
      initial: { ...site },
      draft: `site.${site.id}`,
      does: 'Save',
      version: site.version,
      save: (body, version) => api.call(clientRoutes.editSite, { params: { siteId: site.id }, version: version!, body }),
      stored: () => read(client.id).pipe(map((c) => c.sites.find((s) => s.id === site.id) ?? site)),
    }),
  };
}
