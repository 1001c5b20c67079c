import { assetFacts, type AssetFilter, type AssetRowWire, type AssetWire } from '@core/clients';
import { type Id, isRefusal, type Outcome, type Page, refuse } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { containing, keysetPage, type Sort } from '../../app/keyset-page';
import { readStory } from '../../app/read-story';
import { shownFields } from '../../desk';
import type { HouseBook } from '../../house';
const OPEN_TICKETS = `(select count(*) from ticket t where t.asset_id = a.id and t.status not in ('resolved','closed'))`;
const CLIENT = `(select name from client where id = a.client_id)`;
const SORTS: Readonly<Record<string, Sort>> = {
  number: { by: 'a.number', type: 'text' },
  name: { by: 'a.name', type: 'text' },
  client: { by: CLIENT, type: 'text' },
  tickets: { by: OPEN_TICKETS, type: 'int' },
};

type AssetShown = Row<'asset'> & {
  readonly client: string;
  readonly site: string | null;
  readonly contact: string | null;
  readonly open_tickets: number;
};

export async function listAssets(db: Db, filter: AssetFilter): Promise<Outcome<Page<AssetRowWire>>> {
  const matching = () =>
    db('asset as a').modify((q) => {
      void q.whereRaw(`a.archived_at is ${filter.archived ? 'not ' : ''}null`);
      if (filter.clientId) void q.where('a.client_id', filter.clientId);
      if (filter.siteId) void q.where('a.site_id', filter.siteId);
      if (filter.contactId) void q.where('a.contact_id', filter.contactId);
      if (filter.q) void q.whereRaw(`(a.number || ' ' || a.name) ilike ?`, [containing(filter.q)]);
    });
  const page = await keysetPage<AssetShown>(db, { matching, id: 'a.id', sorts: SORTS, select: (q) => selected(db, q) }, filter);
  return isRefusal(page) ? page : { ...page, rows: page.rows.map(rowWire) };
}

export async function readAsset(db: Db, book: HouseBook, assetId: Id<'asset'>): Promise<Outcome<AssetWire>> {
  const [row] = await selected(db, db('asset as a').where('a.id', assetId));
  if (!row) return refuse('not-found', 'There is no such asset.');
  const asset = rowWire(row);
  const [fields] = await shownFields(db, book, { on: 'asset', records: [{ asset: assetFacts(asset), field: row.fields }] });
  return { ...asset, fields: fields!, story: await readStory(db, { subject: 'asset', id: assetId }) };
}

function selected(db: Db, rows: ReturnType<Db['queryBuilder']>) {
  return rows
    .join('client as c', 'c.id', 'a.client_id')
    .leftJoin('site as s', 's.id', 'a.site_id')
    .leftJoin('contact as k', 'k.id', 'a.contact_id')
    .select('a.*', 'c.name as client', 's.name as site', 'k.name as contact', db.raw(`${OPEN_TICKETS} as open_tickets`));
}

function rowWire(a: AssetShown): AssetRowWire {
  return {
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
    archived: a.archived_at !== null,
  };
}
