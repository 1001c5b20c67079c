import type { ClientWire } from '@core/clients';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let leif: Script;
let manager: Script;
beforeAll(async () => {
  world = await startWorld();
  [leif, manager] = [await world.as('Leif'), await world.as('Aoife')];
});
afterAll(() => world.stop());

const idOf = async (name: string) => (await world.knex('client').where({ name }).first('id')).id as string;
const read = (clientId: string): Promise<ClientWire> => leif.do('getClient', { params: { clientId } });
const NEW = {
  name: 'Thornmere Glass',
  domains: 'thornmere.example',
  zone: 'Europe/Dublin',
  street: '4 Kiln Row',
  city: 'Pellworth',
  postcode: 'PW2 1KR',
  country: 'ie',
  taxNumber: null,
  invoiceEmail: 'Accounts@Thornmere.example',
  paymentDays: 14,
  taxExempt: false,
};

describe('clients, sites and contacts', () => {
  it('adds a client with a number of its own, and tidies what was typed', async () => {
    const { id } = await leif.do('createClient', { body: NEW });
    const client = await read(id);
    expect(client).toMatchObject({ country: 'IE', invoiceEmail: 'accounts@thornmere.example', sites: [], contacts: [] });
    expect(client.number).toBeGreaterThan(100);
    expect(client.story.map((s) => [s.who, s.what])).toEqual([['Leif Sandvik', 'added Thornmere Glass']]);
  });

  it('adds and changes sites, and tells it in the story of the client', async () => {
    const clientId = await idOf('Thornmere Glass');
    const site = { name: 'Furnace', street: '4 Kiln Row', city: 'Pellworth', postcode: 'PW2 1KR' };
    const { id, version } = await leif.do('addSite', { params: { clientId }, body: site });
    await leif.do('editSite', { params: { siteId: id }, version, body: { ...site, name: 'Furnace hall' } });
    const refused = await leif.ask('editSite', { params: { siteId: id }, version, body: site });
    expect(refused.status).toBe(412);
    const client = await read(clientId);
    expect(client.sites.map((s) => s.name)).toEqual(['Furnace hall']);
    expect(client.story.map((s) => s.what)).toEqual([
      'added Thornmere Glass',
      'added the site Furnace',
      'changed the site Furnace hall: name from Furnace to Furnace hall',
    ]);
  });

  it('keeps one address for one contact, whatever its case, and sites within the client', async () => {
    const clientId = await idOf('Thornmere Glass');
    const other = await world.knex('site').whereNot({ client_id: clientId }).first('id');
    const contact = { name: 'Mab Quill', email: 'mab@thornmere.example', phone: null, title: null, siteId: null, priority: false };
    const { id, version } = await manager.do('addContact', { params: { clientId }, body: contact });
    const again = await manager.ask('addContact', { params: { clientId }, body: { ...contact, email: 'MAB@thornmere.example' } });
    expect([again.status, (again.body as { fields: object }).fields]).toEqual([409, { email: 'an address that no other contact has' }]);
    const away = await manager.ask('editContact', { params: { contactId: id }, version, body: { ...contact, siteId: other.id } });
    expect([away.status, (away.body as { fields: object }).fields]).toEqual([422, { siteId: 'choose a site of the client' }]);
    await manager.do('editContact', { params: { contactId: id }, version, body: { ...contact, title: 'Glazier' } });
    expect((await read(clientId)).contacts).toMatchObject([{ name: 'Mab Quill', title: 'Glazier' }]);
  });

  it('puts a contact away, frees the address, and refuses to bring back who would share it', async () => {
    const clientId = await idOf('Thornmere Glass');
    const [mab] = (await read(clientId)).contacts;
    const { version } = await manager.do('archiveContact', {
      params: { contactId: mab!.id },
      version: mab!.version,
      body: { archived: true },
    });
    expect((await read(clientId)).contacts).toEqual([]);
    const next = { name: 'Mab the second', email: mab!.email, phone: null, title: null, siteId: null, priority: true };
    await manager.do('addContact', { params: { clientId }, body: next });
    const back = await manager.ask('archiveContact', { params: { contactId: mab!.id }, version, body: { archived: false } });
    expect([back.status, (back.body as { detail: string }).detail]).toEqual([
      409,
      'Mab the second has the address mab@thornmere.example now.',
    ]);
  });

  it('puts away only a client with nothing open and nothing to bill, and brings it back', async () => {
    const busy = await read(await idOf('Hollin Veterinary Group'));
    const no = await leif.ask('archiveClient', { params: { clientId: busy.id }, version: busy.version, body: { archived: true } });
    expect([no.status, (no.body as { detail: string }).detail]).toEqual([409, expect.stringMatching(/^Ticket \d+ .* is open\./)]);
    const quiet = await read(await idOf('Thornmere Glass'));
    const { version } = await leif.do('archiveClient', {
      params: { clientId: quiet.id },
      version: quiet.version,
      body: { archived: true },
    });
    const names = async (query: Record<string, string>) => (await leif.do('listClients', { query })).rows.map((c) => c.name);
    expect(await names({})).not.toContain('Thornmere Glass');
    expect(await names({ archived: 'yes' })).toEqual(['Thornmere Glass']);
    await leif.do('archiveClient', { params: { clientId: quiet.id }, version, body: { archived: false } });
    expect(await names({ q: 'thornm' })).toEqual(['Thornmere Glass']);
    expect((await read(quiet.id)).story.slice(-2).map((s) => s.what)).toEqual(['put away', 'brought back']);
  });

  it('lets no two changes pass as one', async () => {
    const client = await read(await idOf('Thornmere Glass'));
    const body = { ...NEW, city: 'Old Pellworth' };
    const both = await Promise.all([
      leif.ask('editClient', { params: { clientId: client.id }, version: client.version, body }),
      manager.ask('editClient', { params: { clientId: client.id }, version: client.version, body: { ...body, city: 'New Pellworth' } }),
    ]);
    expect(both.map((b) => b.status).sort()).toEqual([200, 412]);
  });
});

describe('assets and catalogue items', () => {
  it('keep their numbers apart, their people within the client, and their story', async () => {
    const clientId = await idOf('Thornmere Glass');
    const stranger = await world.knex('contact').whereNot({ client_id: clientId }).first('id');
    const asset = { number: 'TG-KLN-001', name: 'Kiln control', clientId, siteId: null, contactId: null, make: 'Carrow Mini' };
    const { id, version } = await manager.do('createAsset', { body: asset });
    const taken = await manager.ask('createAsset', { body: { ...asset, name: 'Another' } });
    expect([taken.status, (taken.body as { detail: string }).detail]).toEqual([409, 'The number TG-KLN-001 is taken by Kiln control.']);
    const wrong = await manager.ask('editAsset', { params: { assetId: id }, version, body: { ...asset, contactId: stranger.id } });
    expect([wrong.status, (wrong.body as { fields: object }).fields]).toEqual([422, { contactId: 'choose a contact of the client' }]);
    const changed = await manager.do('editAsset', { params: { assetId: id }, version, body: { ...asset, name: 'Kiln control unit' } });
    const away = await manager.do('archiveAsset', { params: { assetId: id }, version: changed.version, body: { archived: true } });
    expect((await manager.do('listAssets', { query: { clientId } })).rows).toEqual([]);
    await manager.do('archiveAsset', { params: { assetId: id }, version: away.version, body: { archived: false } });
    const page = await manager.do('getAsset', { params: { assetId: id } });
    expect(page.story.map((s) => s.what)).toEqual([
      'added TG-KLN-001',
      'changed name from Kiln control to Kiln control unit',
      'put away',
      'brought back',
    ]);
  });

  it('show a price both ways and warn of one that cannot be met', async () => {
    const body = {
      number: 'GLS-1',
      name: 'Glass fuse',
      category: 'Parts',
      price: '9.99',
      basis: 'gross',
      cost: '2',
      taxCategory: 'S',
      taxPercent: '23',
    };
    const { id } = await leif.do('createItem', { body });
    const item = await leif.do('getItem', { params: { itemId: id } });
    expect(item).toMatchObject({ netPrice: '8.122', grossPrice: '9.99', invoicedGross: '9.99', asTyped: true, marginPercent: '75.4' });
    const odd = await leif.do('createItem', { body: { ...body, number: 'GLS-2', price: '0.02' } });
    expect(await leif.do('getItem', { params: { itemId: odd.id } })).toMatchObject({ netPrice: '0.0163', invoicedGross: '0.02' });
    expect((await leif.do('listItemCategories')).categories).toContain('Parts');
    // Who may read its story may not all know what it costs.
    await leif.do('editItem', { params: { itemId: id }, version: 1, body: { ...body, price: '10.50', cost: '3.1', taxPercent: '23.0' } });
    const { story } = await leif.do('getItem', { params: { itemId: id } });
    expect(story.map((s) => s.what)).toContain('changed price from 9.99 to 10.5, cost');
    const missing = await leif.ask('getItem', { params: { itemId: '00000000-0000-4000-8000-000000000000' } });
    expect(missing.status).toBe(404);
  });
});
