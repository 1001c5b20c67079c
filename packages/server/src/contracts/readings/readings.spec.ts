import { lineForm } from '../../../testing/contract-forms';
import { ownClient } from '../../../testing/own-client';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let hanna: Script;
let sora: Script;
let contractId: string;
let clientId: string;
let lineId: string;
const TIERS = [{ above: 1000, price: '0.01' }];
beforeAll(async () => {
  world = await startWorld();
  hanna = await world.as('Hanna');
  sora = await world.as('Sora');
  ({ clientId } = await ownClient(world));
  const body = {
    clientId,
    name: 'Storage',
    startsOn: '2026-09-01',
    lastDay: null,
    preset: 'by the hour',
    grant: null,
    price: null,
  } as const;
  ({ id: contractId } = await hanna.do('createContract', { body }));
  const { version } = await hanna.do('getContract', { params: { contractId } });
  await hanna.do('agreeContract', { params: { contractId }, version });
});
afterAll(() => world.stop());

const add = (readings: readonly { on: string; quantity: string; key?: string }[]) =>
  hanna.ask('addReadings', {
    params: { contractId, lineId },
    body: { readings: readings.map((r) => ({ key: null, ...r })), source: 'by a program' },
  });
const next = async (on: string) =>
  (await hanna.do('getNextInvoice', { params: { contractId }, query: { on } })).due.map((d) => [d.is, d.from, d.amount.minor, d.quantity]);
const waiting = async () =>
  (await world.knex('charge').where({ contract_id: contractId, state: 'proposed' }).orderBy('period')).map((c) => c.net_minor);

describe('a line with a meter', () => {
  it('is drawn up in arrears alone, with tiers that rise', async () => {
    const line = lineForm({ name: 'Storage', counted: 'metered', priced: 'tiers', price: '0.02', tiers: TIERS, startsOn: '2026-09-01' });
    const ask = (more: object) => hanna.ask('addLine', { params: { contractId }, body: { ...line, paid: 'in arrears', ...more } });
    const refused = async (more: object) => (await ask(more)).body;
    expect(await refused({ paid: 'in advance' })).toMatchObject({ status: 422, fields: { paid: 'in arrears' } });
    expect(await refused({ tiers: [] })).toMatchObject({ status: 422, fields: { tiers: 'at least one' } });
    expect(await refused({ priced: 'one price' })).toMatchObject({ status: 422, fields: { priced: 'tiers or volume' } });
    expect(await refused({ tiers: [...TIERS, { above: 1000, price: '1' }] })).toMatchObject({ status: 422 });
    expect(await refused({ frequency: 'once' })).toMatchObject({ status: 422, fields: { counted: 'one always' } });
    lineId = ((await ask({})).body as { id: string }).id;
    expect(await next('2026-12-01')).toEqual([]);
  });

  it('takes what was read, each key once, and bills it by its tiers at the end of the month', async () => {
    const read = [
      { on: '2026-10-05', quantity: '600', key: 'oct-1' },
      { on: '2026-10-20', quantity: '700.5', key: 'oct-2' },
    ];
    expect((await add(read)).body).toEqual({ added: 2, known: 0 });
    expect((await add([...read, { on: '2026-11-02', quantity: '10' }])).body).toEqual({ added: 1, known: 2 });
    expect(await next('2026-10-31')).toEqual([]);
    expect(await next('2026-11-01')).toEqual([['new', '2026-10-01', 2301, '1']]);
    await hanna.do('proposeRecurring', { params: { contractId }, body: { on: '2026-11-01' } });
    expect(await waiting()).toEqual([2301]);
    // What comes late changes what waits.
    await add([{ on: '2026-10-31', quantity: '100' }]);
    expect(await waiting()).toEqual([2401]);
    const [line] = (await hanna.do('getContract', { params: { contractId } })).lines;
    expect([line!.readCount, line!.readings.map((r) => r.quantity)]).toEqual([4, ['10', '100', '700.5', '600']]);
    const listed = await hanna.do('listReadings', { params: { contractId, lineId }, query: { from: '2026-10-01', to: '2026-10-31' } });
    expect(listed.readings.map((r) => [r.on, r.quantity, r.key])).toEqual([
      ['2026-10-05', '600', 'oct-1'],
      ['2026-10-20', '700.5', 'oct-2'],
      ['2026-10-31', '100', null],
    ]);
  });

  it('records nothing where one reading is wrong, and says which', async () => {
    const before = (await world.knex('contract_reading').count('id as n').first())!.n;
    const ok = { on: '2026-11-03', quantity: '1' };
    expect((await add([ok, { on: '2026-08-31', quantity: '1' }])).body).toMatchObject({
      status: 422,
      fields: { 'readings.1.on': '2026-09-01 or later' },
    });
    expect((await add([ok, { on: '2026-10-05', quantity: '601', key: 'oct-1' }])).body).toMatchObject({
      status: 409,
      detail: expect.stringContaining('oct-1 is known with 600 on 2026-10-05'),
    });
    expect((await add([ok, { on: '2026-11-03', quantity: '0' }])).status).toBe(422);
    const many = Array.from({ length: 2001 }, () => ok);
    expect((await add(many)).status).toBe(422);
    const params = { contractId, lineId };
    expect((await sora.ask('addReadings', { params, body: { readings: [{ ...ok, key: null }], source: 'by hand' } })).status).toBe(403);
    expect((await world.knex('contract_reading').count('id as n').first())!.n).toBe(before);
    await expect(world.knex('contract_reading').update({ quantity: 1 })).rejects.toThrow('append-only');
  });

  it('is not read where it has none', async () => {
    const body = lineForm({ name: 'Set-up', price: '250', frequency: 'once', startsOn: '2026-11-11' });
    const { id } = await hanna.do('addLine', { params: { contractId }, body });
    const reading = { readings: [{ on: '2026-11-11', quantity: '1', key: null }], source: 'by hand' } as const;
    expect((await hanna.ask('addReadings', { params: { contractId, lineId: id }, body: reading })).status).toBe(409);
    // What is billed once is due with its lead, once.
    expect((await next('2026-10-31')).filter(([, from]) => from === '2026-11-11')).toEqual([]);
    expect((await next('2026-11-01')).find(([, from]) => from === '2026-11-11')).toEqual(['new', '2026-11-11', 25_000, '1']);
    await hanna.do('proposeRecurring', { params: { contractId }, body: { on: '2026-11-24' } });
    await world.knex('charge').where({ contract_line_id: id }).update({ state: 'approved' });
    expect((await next('2027-11-01')).filter(([, from]) => from === '2026-11-11')).toEqual([]);
  });

  it('raises its tiers with its price; what is billed once, also later, stands apart', async () => {
    const later = lineForm({ name: 'Move', price: '80', frequency: 'once', startsOn: '2027-03-01' });
    await hanna.do('addLine', { params: { contractId }, body: later });
    await hanna.do('raisePrices', { params: { contractId }, body: { percent: '50', indexThen: null, indexNow: null, from: '2027-01-01' } });
    const [line] = (await hanna.do('getContract', { params: { contractId } })).lines;
    expect(line!.prices).toEqual([{ from: '2027-01-01', price: '0.03', tiers: [{ above: 1000, price: '0.02' }] }]);
  });

  it('shows what it makes and costs to who may see costs', async () => {
    const body = lineForm({ name: 'Care', price: '100', unitCost: '60', frequency: 'quarterly', startsOn: '2026-09-01' });
    await hanna.do('addLine', { params: { contractId }, body });
    const care = async (script: Script) =>
      (await script.do('getContract', { params: { contractId } })).lines.find((l) => l.name === 'Care')!;
    expect(await care(hanna)).toMatchObject({
      unitCost: '60',
      monthly: { minor: 3333 },
      margin: { left: { minor: 1333 }, percent: '40' },
    });
    const hers = await care(sora);
    expect([hers.unitCost, hers.margin, hers.monthly.minor]).toEqual([undefined, undefined, 3333]);
  });
});

describe('who is on a line', () => {
  it('stands on its documents where that is wanted', async () => {
    const rows = ['Bo Fell', 'Cy Marsh'].map((name, n) => ({ client_id: clientId, name, email: `n${n}@meter.example`, priority: false }));
    const people: string[] = (await world.knex('contact').insert(rows).returning('id')).map((r) => r.id);
    const line = lineForm({ name: 'Desks', counted: 'seat', price: '30', namesOnInvoice: true, startsOn: '2026-09-01' });
    const { id } = await hanna.do('addLine', { params: { contractId }, body: line });
    const put = (unitIds: string[], startsOn: string) =>
      hanna.do('addSeats', { params: { contractId, lineId: id }, body: { unitIds, startsOn, lastDay: null } });
    await put([people[0]!], '2026-09-01');
    await put([people[1]!], '2026-11-16');
    await hanna.do('proposeRecurring', { params: { contractId }, body: { on: '2026-11-01' } });
    // The run that is open has December as well.
    const due = world.knex('charge').where({ contract_line_id: id }).whereRaw(`lower(period) <= '2026-11-01'`);
    const charges = await due.orderBy('period').select('details');
    expect(charges.map((c) => c.details)).toEqual(['Bo Fell', 'Bo Fell', 'Bo Fell, Cy Marsh (from 2026-11-16)']);
    await world.knex('charge').where({ contract_line_id: id }).update({ state: 'approved' });
    const chargeIds: string[] = await world.knex('charge').where({ contract_line_id: id }).pluck('id');
    const ngozi = await world.as('Ngozi');
    const { id: invoiceId } = await ngozi.do('issueInvoice', { body: { clientId, chargeIds, grossMinor: null } });
    const invoice = await ngozi.do('getInvoice', { params: { invoiceId } });
    expect(invoice.lines.map((l) => l.details)).toContain('Bo Fell, Cy Marsh (from 2026-11-16)');
  });
});
