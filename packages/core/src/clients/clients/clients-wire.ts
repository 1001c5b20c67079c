import { string } from 'yup';
import {
  count,
  date,
  defineRoutes,
  degrees,
  done,
  email,
  id,
  list,
  optionalId,
  optionalText,
  pageOf,
  pageQuery,
  record,
  earlierStory,
  storySchema,
  text,
  whole,
  type Wire,
  yes,
} from '../../ground';
import { fieldValuesSchema, shownFieldSchema } from '../../desk';

export const clientRowSchema = record({
  id: id('client'),
  version: count(),
  number: count(),
  name: text(),
  sites: count(),
  contacts: count(),
  openTickets: count(),
  zone: text(),
  archived: yes(),
});
export type ClientRowWire = Wire<typeof clientRowSchema>;

/** The same fields in the form, the route and the record. */
export const siteFields = {
  name: text(120),
  street: text(120),
  city: text(80),
  postcode: text(20),
  /** For the way there; without them, travel is what somebody says. */
  latitude: degrees(90).default(null),
  longitude: degrees(180).default(null),
  /** How to get in, as a technician reads it on the way. */
  directions: optionalText(500).default(null),
};
export const siteFormSchema = record(siteFields);
export type SiteForm = Wire<typeof siteFormSchema>;
export const siteSchema = record({ id: id('site'), version: count(), ...siteFields });
export type SiteWire = Wire<typeof siteSchema>;
const contactFields = {
  name: text(120),
  email: email(),
  phone: optionalText(40),
  title: optionalText(80),
  siteId: optionalId('site'),
  priority: yes(),
};
export const contactFormSchema = record({ ...contactFields, fields: fieldValuesSchema().default([]) });
export type ContactForm = Wire<typeof contactFormSchema>;
export const contactSchema = record({ id: id('contact'), version: count(), ...contactFields, fields: list(shownFieldSchema) });
export type ContactWire = Wire<typeof contactSchema>;

/** The same fields in the form, the route and the record. */
export const clientFields = {
  name: text(120),
  domains: string()
    .trim()
    .lowercase()
    .defined()
    .required('write at least one domain')
    .max(500, 'at most 500 characters')
    .matches(/^([a-z0-9-]+\.)+[a-z]{2,}(, ?([a-z0-9-]+\.)+[a-z]{2,})*$/, 'domains such as hollin.example, with commas between'),
  zone: text(60).test('zone', 'an IANA zone such as Europe/Dublin', isZone),
  street: text(120),
  city: text(80),
  postcode: text(20),
  country: string()
    .trim()
    .uppercase()
    .defined()
    .required('two letters')
    .max(60)
    .matches(/^[A-Z]{2}$/, 'two letters, such as IE'),
  taxNumber: optionalText(30),
  invoiceEmail: email(),
  paymentDays: whole(0, 120),
  taxExempt: yes(),
};
const ownFields = { fields: fieldValuesSchema().default([]) };
export const clientFormSchema = record({ ...clientFields, ...ownFields });
export type ClientForm = Wire<typeof clientFormSchema>;
/** Whose client it is stays; the first of one's own divisions where nothing is said. */
export const newClientSchema = record({ ...clientFields, ...ownFields, divisionId: optionalId('division').default(null) });
export const clientSchema = record({
  id: id('client'),
  version: count(),
  number: count(),
  ...clientFields,
  division: text(),
  promiseId: optionalId('promise'),
  promise: optionalText(),
  calendarId: optionalId('calendar'),
  calendar: optionalText(),
  sites: list(siteSchema),
  contacts: list(contactSchema),
  fields: list(shownFieldSchema),
  since: date(),
  archived: yes(),
  story: list(storySchema),
});
export type ClientWire = Wire<typeof clientSchema>;

export const promiseSchema = record({
  /** None takes the promise of the kind, else of the house. */
  promiseId: optionalId('promise'),
  /** Their own working time; none takes ours. */
  calendarId: optionalId('calendar'),
  /** Also for tickets that are open now: time counted stays, the targets change from now on. */
  applyToOpen: yes(),
});
export type ClientPromise = Wire<typeof promiseSchema>;
export const foundContactSchema = record({
  id: id('contact'),
  name: text(),
  title: optionalText(),
  email: text(),
  phone: optionalText(),
  clientId: id('client'),
  client: text(),
});
export type FoundContactWire = Wire<typeof foundContactSchema>;

export const CLIENT_SORTS = ['name', 'number', 'tickets', 'contacts'] as const;
export const clientFilterSchema = pageQuery(CLIENT_SORTS, { q: string().max(100), archived: string().oneOf(['yes']) });
export type ClientFilter = Wire<typeof clientFilterSchema>;

function isZone(zone: string | undefined): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
}

export const clientRoutes = defineRoutes({
  listClients: {
    method: 'GET',
    path: '/clients',
    summary: 'Clients by filter, sorted, in pages',
    permission: 'clients.read',
    query: clientFilterSchema,
    answer: pageOf(clientRowSchema),
  },
  findContacts: {
    method: 'GET',
    path: '/contacts',
    summary: 'Contacts whose name, mail address, phone number or client fits what is typed; the likest first',
    permission: 'clients.read',
    query: record({ q: string().trim().defined().required('type a part of the name').max(100) }),
    answer: record({ contacts: list(foundContactSchema) }),
  },
  getClient: {
    method: 'GET',
    path: '/clients/:clientId',
    summary: 'A client with sites and contacts',
    permission: 'clients.read',
    answer: clientSchema,
  },
  getClientStory: {
    method: 'GET',
    path: '/clients/:clientId/story',
    summary: 'What happened to a client before an event that is known',
    permission: 'clients.read',
    ...earlierStory,
  },
  createClient: {
    method: 'POST',
    path: '/clients',
    summary: 'Add a client',
    permission: 'clients.edit',
    body: newClientSchema,
    answer: done(),
  },
  setPromise: {
    method: 'PUT',
    path: '/clients/:clientId/promise',
    summary: 'Set the promise and the calendar of a client; what was counted stays',
    permission: 'setup.edit',
    versioned: true,
    body: promiseSchema,
    answer: done(),
  },
  editClient: {
    method: 'PUT',
    path: '/clients/:clientId',
    summary: 'Change a client',
    permission: 'clients.edit',
    versioned: true,
    body: clientFormSchema,
    answer: done(),
  },
  archiveClient: {
    method: 'POST',
    path: '/clients/:clientId/archive',
    summary: 'Put a client away who has nothing open, or bring them back',
    permission: 'clients.edit',
    versioned: true,
    body: record({ archived: yes() }),
    answer: done(),
  },
  addSite: {
    method: 'POST',
    path: '/clients/:clientId/sites',
    summary: 'Add a site to a client',
    permission: 'clients.edit',
    body: siteFormSchema,
    answer: done(),
  },
  editSite: {
    method: 'PUT',
    path: '/sites/:siteId',
    summary: 'Change a site',
    permission: 'clients.edit',
    versioned: true,
    body: siteFormSchema,
    answer: done(),
  },
  editContact: {
    method: 'PUT',
    path: '/contacts/:contactId',
    summary: 'Change a contact',
    permission: 'tickets.work',
    versioned: true,
    body: contactFormSchema,
    answer: done(),
  },
  archiveContact: {
    method: 'POST',
    path: '/contacts/:contactId/archive',
    summary: 'Put a contact away who left, or bring them back',
    permission: 'tickets.work',
    versioned: true,
    body: record({ archived: yes() }),
    answer: done(),
  },
  addContact: {
    method: 'POST',
    path: '/clients/:clientId/contacts',
    summary: 'Add a contact to a client',
    permission: 'tickets.work',
    body: contactFormSchema,
    answer: done(),
  },
});
