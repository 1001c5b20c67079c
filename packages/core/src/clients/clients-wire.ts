import { string } from 'yup';
import { count, date, defineRoutes, done, email, id, list, optionalId, optionalText, record, text, whole, yes, type Wire } from '../routes';

export const clientRowSchema = record({
  id: id(),
  number: count(),
  name: text(),
  sites: count(),
  contacts: count(),
  openTickets: count(),
  zone: text(),
});
export type ClientRowWire = Wire<typeof clientRowSchema>;

export const siteSchema = record({ id: id(), name: text(), street: text(), city: text(), postcode: text() });
export const contactSchema = record({
  id: id(),
  name: text(),
  email: email(),
  phone: optionalText(),
  title: optionalText(),
  siteId: optionalId(),
  priority: yes(),
});
export type ContactWire = Wire<typeof contactSchema>;

/** The same fields in the form, the route and the record. */
export const clientFields = {
  name: text(120),
  domains: string()
    .trim()
    .lowercase()
    .defined()
    .required('write at least one domain')
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
    .matches(/^[A-Z]{2}$/, 'two letters, such as IE'),
  taxNumber: optionalText(30),
  invoiceEmail: email(),
  paymentDays: whole(0, 120),
  taxExempt: yes(),
};
export const clientFormSchema = record(clientFields);
export type ClientForm = Wire<typeof clientFormSchema>;
export const clientSchema = record({
  id: id(),
  version: count(),
  number: count(),
  ...clientFields,
  sites: list(siteSchema),
  contacts: list(contactSchema),
  since: date(),
});
export type ClientWire = Wire<typeof clientSchema>;
export const contactFormSchema = record({
  name: text(120),
  email: email(),
  phone: optionalText(40),
  title: optionalText(80),
  siteId: optionalId(),
  priority: yes(),
});
export type ContactForm = Wire<typeof contactFormSchema>;

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
    summary: 'All clients',
    permission: 'clients.read',
    answer: record({ clients: list(clientRowSchema) }),
  },
  getClient: {
    method: 'GET',
    path: '/clients/:clientId',
    summary: 'A client with sites and contacts',
    permission: 'clients.read',
    answer: clientSchema,
  },
  createClient: {
    method: 'POST',
    path: '/clients',
    summary: 'Add a client',
    permission: 'clients.edit',
    body: clientFormSchema,
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
  addContact: {
    method: 'POST',
    path: '/clients/:clientId/contacts',
    summary: 'Add a contact to a client',
    permission: 'tickets.work',
    body: contactFormSchema,
    answer: done(),
  },
});
