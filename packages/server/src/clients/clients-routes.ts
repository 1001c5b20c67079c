import { clientRoutes, type ClientForm } from '@core/clients';
import { isRefusal, refuse } from '@core/outcome';
import { dateOf } from '@core/time';
import type { App } from '../app/app';
import { bindRoutes } from '../app/bind-routes';
import { changeRow } from '../app/change-row';

export function bindClients(app: App) {
  return bindRoutes(app, clientRoutes, {
    listClients: async ({ db }) => {
      const rows = await db('client as c')
        .whereNull('archived_at')
        .orderBy('name')
        .select(
          'c.id',
          'c.number',
          'c.name',
          'c.zone',
          db.raw('(select count(*) from site s where s.client_id = c.id) as sites'),
          db.raw('(select count(*) from contact k where k.client_id = c.id and k.archived_at is null) as contacts'),
          db.raw(`(select count(*) from ticket t where t.client_id = c.id and t.status not in ('resolved','closed')) as "openTickets"`),
        );
      return { clients: rows };
    },
    getClient: async ({ db, params }) => {
      const c = await db('client').where({ id: params.clientId }).first();
      if (!c) return refuse('not-found', 'There is no such client.');
      const [sites, contacts] = await Promise.all([
        db('site').where({ client_id: c.id }).orderBy('name').select('id', 'name', 'street', 'city', 'postcode'),
        db('contact')
          .where({ client_id: c.id })
          .whereNull('archived_at')
          .orderBy('name')
          .select('id', 'name', 'email', 'phone', 'title', 'site_id', 'priority'),
      ]);
      return {
        id: c.id,
        version: c.version,
        number: c.number,
        name: c.name,
        domains: c.domains.join(', '),
        zone: c.zone,
        street: c.street,
        city: c.city,
        postcode: c.postcode,
        country: c.country,
        taxNumber: c.tax_number,
        invoiceEmail: c.invoice_email,
        paymentDays: c.payment_days,
        taxExempt: c.tax_exempt,
        since: c.since,
        sites,
        contacts: contacts.map(({ site_id, ...k }) => ({ ...k, siteId: site_id })),
      };
    },
    createClient: async ({ work, body, now }) => {
      const division = await work.tx('division').orderBy('name').first('id');
      const [row] = await work
        .tx('client')
        .insert({
          ...columns(body),
          division_id: division.id,
          number: work.tx.raw(`nextval('client_number')`),
          since: dateOf(now, app.house.house.zone),
        })
        .returning(['id', 'version']);
      await work.tell({ subject: 'client', id: row.id, what: `added ${body.name}` });
      return row;
    },
    editClient: async ({ work, params, version, body }) => {
      const changed = await changeRow(work, { table: 'client', id: params.clientId, version, set: columns(body) });
      if (!isRefusal(changed)) await work.tell({ subject: 'client', id: params.clientId, what: 'changed' });
      return changed;
    },
    addContact: async ({ work, params, body }) => {
      const taken = await work.tx('contact').whereRaw('lower(email) = ?', [body.email]).whereNull('archived_at').first('name');
      if (taken)
        return refuse('already-used', `${taken.name} has this address already.`, { email: 'an address that no other contact has' });
      const client = await work.tx('client').where({ id: params.clientId }).first('id');
      if (!client) return refuse('not-found', 'There is no such client.');
      const { siteId, ...rest } = body;
      const [row] = await work
        .tx('contact')
        .insert({ ...rest, site_id: siteId, client_id: params.clientId })
        .returning(['id', 'version']);
      await work.tell({ subject: 'client', id: params.clientId, what: `added the contact ${body.name}` });
      return row;
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
