import { assetRoutes, type AssetForm, type AssetWire } from '@core/assets';
import { isRefusal, refuse, type Refusal } from '@core/outcome';
import type { App } from '../app/app';
import { bindRoutes } from '../app/bind-routes';
import { changeRow } from '../app/change-row';
import type { Columns, Db } from '../app/database';
import type { Work } from '../app/work';

const MOST = 1000;

export function bindAssets(app: App) {
  return bindRoutes(app, assetRoutes, {
    listAssets: async ({ db, query }) => ({ assets: await readAssets(db, { clientId: query.clientId, q: query.q }) }),
    getAsset: async ({ db, params }) => (await readAssets(db, { id: params.assetId }))[0] ?? refuse('not-found', 'There is no such asset.'),
    createAsset: async ({ work, body }) => {
      const wrong = await check(work, body, undefined);
      if (wrong) return wrong;
      const [row] = await work.tx('asset').insert(columns(body)).returning(['id', 'version']);
      await work.tell({ subject: 'asset', id: row.id, what: `added ${body.number}` });
      return row;
    },
    editAsset: async ({ work, params, version, body }) => {
      const wrong = await check(work, body, params.assetId);
      if (wrong) return wrong;
      const changed = await changeRow(work, { table: 'asset', id: params.assetId, version, set: columns(body) });
      if (!isRefusal(changed)) await work.tell({ subject: 'asset', id: params.assetId, what: 'changed' });
      return changed;
    },
  });
}

async function check(work: Work, form: AssetForm, assetId: string | undefined): Promise<Refusal | undefined> {
  const taken = await work
    .tx('asset')
    .where({ number: form.number })
    .modify((q) => assetId && void q.whereNot({ id: assetId }))
    .first('name');
  if (taken)
    return refuse('already-used', `The number ${form.number} is taken by ${taken.name}.`, { number: 'a number that no other asset has' });
  const contact = form.contactId ? await work.tx('contact').where({ id: form.contactId, client_id: form.clientId }).first('id') : true;
  if (!contact) return refuse('invalid', 'The contact is not of this client.', { contactId: 'choose a contact of the client' });
  const site = form.siteId ? await work.tx('site').where({ id: form.siteId, client_id: form.clientId }).first('id') : true;
  return site ? undefined : refuse('invalid', 'The site is not of this client.', { siteId: 'choose a site of the client' });
}

function columns(form: AssetForm) {
  return {
    number: form.number,
    name: form.name,
    client_id: form.clientId,
    site_id: form.siteId,
    contact_id: form.contactId,
    make: form.make,
  };
}

async function readAssets(
  db: Db,
  { id, clientId, q }: { id?: string; clientId?: string | undefined; q?: string | undefined },
): Promise<AssetWire[]> {
  const rows = await db('asset as a')
    .join('client as c', 'c.id', 'a.client_id')
    .leftJoin('site as s', 's.id', 'a.site_id')
    .leftJoin('contact as k', 'k.id', 'a.contact_id')
    .whereNull('a.archived_at')
    .modify((query) => {
      if (id) void query.where('a.id', id);
      if (clientId) void query.where('a.client_id', clientId);
      if (q) void query.whereRaw(`(a.number || ' ' || a.name) ilike ?`, [`%${q.replace(/[%_\\]/g, '\\$&')}%`]);
    })
    .orderBy('a.number')
    .limit(MOST)
    .select(
      'a.*',
      'c.name as client',
      's.name as site',
      'k.name as contact',
      db.raw(`(select count(*) from ticket t where t.asset_id = a.id and t.status not in ('resolved','closed')) as open_tickets`),
    );
  return rows.map((a: Columns) => ({
    id: a.id,
    version: a.version,
    number: a.number,
    name: a.name,
    clientId: a.client_id,
    siteId: a.site_id,
    contactId: a.contact_id,
    make: a.make,
    client: a.client,
    site: a.site,
    contact: a.contact,
    openTickets: a.open_tickets,
  }));
}
