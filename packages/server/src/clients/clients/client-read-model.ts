import { clientFacts, type ClientFilter, type ClientRowWire, type ClientWire, contactFacts } from '@core/clients';
import { type Id, isRefusal, type Outcome, type Page, refuse } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { shownFields } from '../../desk';
import type { HouseBook } from '../../house';
import { coordinatesOf } from './coordinates';
import { containing, keysetPage, type Sort } from '../../app/keyset-page';
import { readStory } from '../../app/read-story';
const SITES = '(select count(*) from site s where s.client_id = c.id)';
const CONTACTS = '(select count(*) from contact k where k.client_id = c.id and k.archived_at is null)';
const OPEN_TICKETS = `(select count(*) from ticket t where t.client_id = c.id and t.status not in ('resolved','closed'))`;
const SORTS: Readonly<Record<string, Sort>> = {
  name: { by: 'c.name', type: 'text' },
  number: { by: 'c.number', type: 'int' },
  tickets: { by: OPEN_TICKETS, type: 'int' },
  contacts: { by: CONTACTS, type: 'int' },
};

type ClientShown = Row<'client'> & { readonly sites: number; readonly contacts: number; readonly open_tickets: number };

export async function listClients(db: Db, filter: ClientFilter): Promise<Outcome<Page<ClientRowWire>>> {
  const matching = () =>
    db('client as c').modify((q) => {
      void q.whereRaw(`c.archived_at is ${filter.archived ? 'not ' : ''}null`);
      if (filter.q) void q.whereRaw(`(c.number || ' ' || c.name) ilike ?`, [containing(filter.q)]);
    });
  const select = (q: ReturnType<Db['queryBuilder']>) =>
    q.select('c.*', db.raw(`${SITES} as sites, ${CONTACTS} as contacts, ${OPEN_TICKETS} as open_tickets`));
  const page = await keysetPage<ClientShown>(db, { matching, id: 'c.id', sorts: SORTS, select }, filter);
  return isRefusal(page) ? page : { ...page, rows: page.rows.map(rowWire) };
}

function rowWire(c: ClientShown): ClientRowWire {
  return {
    id: c.id,
    version: c.version,
    number: c.number,
    name: c.name,
    sites: c.sites,
    contacts: c.contacts,
    openTickets: c.open_tickets,
    zone: c.zone,
    archived: c.archived_at !== null,
  };
}

/** A client as the page shows it: sites, the contacts who are still there, and what happened. */
export async function readClient(db: Db, book: HouseBook, clientId: Id<'client'>): Promise<Outcome<ClientWire>> {
  const c = await db('client as c')
    .leftJoin('promise as p', 'p.id', 'c.promise_id')
    .leftJoin('calendar as k', 'k.id', 'c.calendar_id')
    .join('division as d', 'd.id', 'c.division_id')
    .where('c.id', clientId)
    .first('c.*', 'p.name as promise', 'k.name as calendar', 'd.name as division');
  if (!c) return refuse('not-found', 'There is no such client.');
  const [sites, contacts, story] = await Promise.all([
    db('site')
      .where({ client_id: c.id })
      .orderBy('name')
      .select('id', 'version', 'name', 'street', 'city', 'postcode', 'latitude', 'longitude', 'directions'),
    db('contact')
      .where({ client_id: c.id })
      .whereNull('archived_at')
      .orderBy('name')
      .select('id', 'version', 'name', 'email', 'phone', 'title', 'site_id as siteId', 'priority', 'fields'),
    readStory(db, { subject: 'client', id: clientId }),
  ]);
  const client = { zone: c.zone, city: c.city, country: c.country, paymentDays: c.payment_days, taxExempt: c.tax_exempt };
  const [fields] = await shownFields(db, book, { on: 'client', records: [{ client: clientFacts(client), field: c.fields }] });
  const contactFields = await shownFields(db, book, {
    on: 'contact',
    records: contacts.map((k) => ({ contact: contactFacts({ ...k, clientId }), field: k.fields })),
  });
  return {
    ...client,
    id: c.id,
    version: c.version,
    number: c.number,
    name: c.name,
    domains: c.domains.join(', '),
    division: c.division,
    street: c.street,
    postcode: c.postcode,
    taxNumber: c.tax_number,
    invoiceEmail: c.invoice_email,
    promiseId: c.promise_id,
    promise: c.promise,
    calendarId: c.calendar_id,
    calendar: c.calendar,
    since: c.since,
    archived: c.archived_at !== null,
    sites: sites.map((s) => ({ ...s, ...coordinatesOf(s) })),
    contacts: contacts.map((k, n) => ({ ...k, fields: contactFields[n]! })),
    fields: fields!,
    story,
  };
}
