import { ruleOf } from '@core/ground';
import type { FieldRecord } from '@core/desk';
import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let clientId: string;
beforeAll(async () => {
  world = await startWorld();
  aoife = await world.as('Aoife');
  clientId = (await aoife.do('listClients')).rows[0]!.id;
});
afterAll(() => world.stop());

const FIELD = { kind: 'text', choices: [], shown: true, required: false, asked: [] } as const;
const add = async (on: FieldRecord, name: string, more: object = {}) =>
  (await aoife.do('addOwnField', { body: { ...FIELD, on, name, ...more } })).id;
const away = (fieldId: string) => aoife.do('archiveOwnField', { params: { fieldId }, version: 1 });
const when = (fact: string, value: string | boolean) => ruleOf({ join: 'all', tests: [{ fact, is: 'is', value }] });

const ASSET = { name: 'Label printer', make: 'Inkwell', siteId: null, contactId: null };
type Given = { fieldId: string; value: string | number | boolean | null }[];
const bodyOf = (number: string, fields: Given, more: object) => ({ ...ASSET, number, clientId, fields, ...more });
const tryAsset = (number: string, fields: Given = [], more: object = {}) =>
  aoife.ask('createAsset', { body: bodyOf(number, fields, more) });
const addAsset = (number: string, fields: Given = [], more: object = {}) => aoife.do('createAsset', { body: bodyOf(number, fields, more) });
const asset = (assetId: string) => aoife.do('getAsset', { params: { assetId } });

describe('own fields of an asset', () => {
  it('are filled as it is added and changed, those not named stay, and the story names what changed', async () => {
    const [shelf, weight] = [await add('asset', 'Shelf'), await add('asset', 'Weight', { kind: 'number' })];
    const added = await addAsset('OF-001', [
      { fieldId: shelf, value: 'upper' },
      { fieldId: weight, value: '2.5' },
    ]);
    const before = await asset(added.id);
    expect(before.fields.filter((f) => [shelf, weight].includes(f.id)).map((f) => [f.name, f.value, f.words])).toEqual([
      ['Shelf', 'upper', 'upper'],
      ['Weight', 2.5, '2.5'],
    ]);
    await aoife.do('editAsset', {
      params: { assetId: added.id },
      version: 1,
      body: { ...ASSET, number: 'OF-001', clientId, fields: [{ fieldId: weight, value: 3 }] },
    });
    const after = await asset(added.id);
    expect(after.fields.find((f) => f.id === shelf)!.value).toBe('upper');
    expect(after.story.map((s) => s.what)).toContain('changed Weight');
    await Promise.all([away(shelf), away(weight)]);
  });

  it('must be filled where their rule says so, at every saving, and nothing is half done', async () => {
    const key = await add('asset', 'Key', { shown: when('asset.make', 'Inkwell'), required: true, asked: ['saving'] });
    const refused = await tryAsset('OF-002');
    expect([refused.status, refused.body]).toMatchObject([422, { detail: 'Fill Key first.', fields: { [key]: 'fill this' } }]);
    expect(await world.knex('asset').where({ number: 'OF-002' })).toEqual([]);
    const other = await addAsset('OF-002', [], { make: 'Another' });
    const edited = await aoife.ask('editAsset', {
      params: { assetId: other.id },
      version: 1,
      body: { ...ASSET, number: 'OF-002', clientId, fields: [] },
    });
    expect(detailOf(edited)).toBe('Fill Key first.');
    expect(await asset(other.id)).toMatchObject({ make: 'Another', version: 1 });
    await away(key);
  });

  it('name assets of their own client alone, and forget them when the asset moves to another', async () => {
    const spare = await add('asset', 'Spare', { kind: 'asset' });
    const foreign = await world.knex('asset').whereNot({ client_id: clientId }).first('id', 'client_id');
    const own = await world.knex('asset').where({ client_id: clientId }).orderBy('number').first('id', 'number');
    expect(detailOf(await tryAsset('OF-003', [{ fieldId: spare, value: foreign.id }]))).toBe('Spare: it is no asset of the client.');
    const added = await addAsset('OF-003', [{ fieldId: spare, value: own.id }]);
    expect((await asset(added.id)).fields.find((f) => f.id === spare)!.words).toBe(own.number);
    await aoife.do('editAsset', {
      params: { assetId: added.id },
      version: 1,
      body: { ...ASSET, number: 'OF-003', clientId: foreign.client_id, fields: [] },
    });
    expect((await asset(added.id)).fields.find((f) => f.id === spare)!.value).toBeNull();
    await away(spare);
  });
});

describe('own fields of clients and contacts', () => {
  it('are kept beside the rest, and shown by what the record is', async () => {
    const tier = await add('client', 'Tier', { kind: 'choice', choices: ['gold', 'iron'] });
    const rung = await add('contact', 'Rung at', { shown: when('contact.priority', true) });
    const { sites: _s, contacts, story: _t, ...client } = await aoife.do('getClient', { params: { clientId } });
    const { name, domains, zone, street, city, postcode, country, taxNumber, invoiceEmail, paymentDays, taxExempt } = client;
    const form = { name, domains, zone, street, city, postcode, country, taxNumber, invoiceEmail, paymentDays, taxExempt };
    const about = { params: { clientId }, version: client.version };
    const wrong = await aoife.ask('editClient', { ...about, body: { ...form, fields: [{ fieldId: tier, value: 'tin' }] } });
    expect(detailOf(wrong)).toBe('Tier: "tin" was given, one of gold, iron is allowed.');
    await aoife.do('editClient', { ...about, body: { ...form, fields: [{ fieldId: tier, value: 'gold' }] } });
    const k = contacts.find((one) => one.priority)!;
    const { title, phone, email, siteId, priority } = k;
    await aoife.do('editContact', {
      params: { contactId: k.id },
      version: k.version,
      body: { name: k.name, title, phone, email, siteId, priority, fields: [{ fieldId: rung, value: 'mornings' }] },
    });
    const after = await aoife.do('getClient', { params: { clientId } });
    expect(after.fields.find((f) => f.id === tier)!.words).toBe('gold');
    expect(after.contacts.find((one) => one.id === k.id)!.fields.find((f) => f.id === rung)!.words).toBe('mornings');
    expect(after.contacts.filter((one) => !one.priority).flatMap((one) => one.fields.map((f) => f.id))).not.toContain(rung);
    expect(after.story.map((s) => s.what)).toEqual(expect.arrayContaining(['changed Tier', `changed the contact ${k.name}: Rung at`]));
  });
});

describe('a field of one kind of record', () => {
  it('has the moments and facts of that kind, keeps its kind, and may share its name with one of another', async () => {
    const shelf = await add('asset', 'Level');
    await add('contact', 'Level');
    const body = { ...FIELD, name: 'Level', on: 'asset' } as const;
    expect(detailOf(await aoife.ask('addOwnField', { body: { ...body, name: 'X', asked: ['opening'] } }))).toBe(
      'A field on every asset cannot be asked for at opening: saving is allowed.',
    );
    const ofTicket = await aoife.ask('addOwnField', { body: { ...body, name: 'X', shown: when('ticket.kind', 'incident') } });
    expect([ofTicket.status, ofTicket.body]).toMatchObject([422, { fields: { shown: expect.stringContaining('ticket.kind') } }]);
    const moved = await aoife.ask('editOwnField', { params: { fieldId: shelf }, version: 1, body: { ...body, on: 'client' } });
    expect(detailOf(moved)).toBe('Level is a field of every asset, and some have values of it. Put it away and add another.');
    const t = await world.knex('ticket').whereNotNull('client_id').first('id', 'version');
    const filled = await aoife.ask('setTicketFields', {
      params: { ticketId: t.id },
      version: t.version,
      body: { values: [{ fieldId: shelf, value: 'x' }] },
    });
    expect(detailOf(filled)).toContain('There is no field');
    expect((await aoife.do('listOwnFields', { query: { on: 'asset' } })).fields.every((f) => f.on === 'asset')).toBe(true);
  });
});
