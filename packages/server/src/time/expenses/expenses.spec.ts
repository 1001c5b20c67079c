import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let ngozi: Script;
let sora: Script;
let workId: string;
let parts: string;
const DAY = '2026-11-23';
beforeAll(async () => {
  world = await startWorld();
  [aoife, ngozi, sora] = [await world.as('Aoife'), await world.as('Ngozi'), await world.as('Sora')];
  workId = (
    await world
      .knex('ticket as t')
      .join('client as c', 'c.id', 't.client_id')
      .where({ 't.status': 'queued', 't.kind': 'incident', 'c.tax_exempt': false })
      .orderBy('t.number')
      .first('t.id')
  ).id;
  parts = (await sora.do('listExpenses', { query: { from: DAY, to: DAY } })).categories.find((k) => k.name === 'Small parts')!.id;
});
afterAll(() => world.stop());

const form = (more: object = {}) => ({
  day: DAY,
  workId,
  categoryId: parts,
  paid: '24.60',
  currency: 'EUR',
  exchange: null,
  taxPercent: '23',
  note: 'bracket',
  billable: true,
  markupPercent: '15',
  ownMoney: true,
  ...more,
});
const add = (more: object = {}) => sora.do('addExpense', { body: form(more) });
const find = async (id: string) => (await sora.do('listExpenses', { query: { from: DAY, to: DAY } })).expenses.find((x) => x.id === id)!;
const chargeOf = (id: string) => world.knex('charge').where({ expense_id: id });
const approve = (expenses: object[]) => aoife.do('decideTime', { body: { entries: [], expenses, decision: 'approve', remark: null } });

describe('expenses', () => {
  it('are charged at what was paid without tax, with the markup, and say how that came about', async () => {
    const { id } = await add();
    const x = await find(id);
    expect(x).toMatchObject({ gross: { minor: 2460 }, net: { minor: 2000 }, charge: { minor: 2300 }, approval: 'open' });
    expect(x.why.map((s) => s.rule)).toEqual(expect.arrayContaining(['paid', 'without 23 % tax', 'with a markup of 15 %']));
    expect(await chargeOf(id)).toMatchObject([{ net_minor: 2300, state: 'proposed', kind: 'expense', odd: ['no receipt'] }]);
  });

  it('of another currency are exchanged once, and need to say at what', async () => {
    const refused = await sora.ask('addExpense', { body: form({ currency: 'GBP' }) });
    expect(refused.status).toBe(422);
    const { id } = await add({ currency: 'GBP', paid: '10', exchange: '1.1745', taxPercent: '0', markupPercent: '0' });
    expect((await find(id)).charge).toEqual({ minor: 1175, currency: 'EUR' });
  });

  it('change in place until approved, and their one charge follows; without a ticket nobody pays', async () => {
    const { id, version } = await add();
    const edited = await sora.do('editExpense', { params: { expenseId: id }, version, body: form({ paid: '12.30' }) });
    expect(await chargeOf(id)).toMatchObject([{ net_minor: 1150 }]);
    expect((await sora.ask('editExpense', { params: { expenseId: id }, version, body: form() })).status).toBe(412);
    await sora.do('editExpense', { params: { expenseId: id }, version: edited.version, body: form({ workId: null }) });
    expect(await chargeOf(id)).toEqual([]);
    expect((await find(id)).charge).toBeNull();
  });

  it('name what is wrong with them', async () => {
    for (const [field, wrong] of [
      ['paid', '-3'],
      ['paid', 'much'],
      ['taxPercent', '120'],
      ['day', '2026-02-30'],
      ['day', '2027-01-01'],
    ] as const) {
      const { status, body } = await sora.ask('addExpense', { body: form({ [field]: wrong }) });
      expect([field, wrong, status]).toEqual([field, wrong, 422]);
      expect(Object.keys((body as { fields: object }).fields)).toContain(field);
    }
  });

  it('carry the picture of a receipt, for who may see it', async () => {
    const { id } = await add();
    const bytes = Buffer.from('89504e470d0a1a0a00', 'hex');
    const bad = await sora.ask('putReceipt', {
      params: { expenseId: id },
      query: { name: 'r.exe', mediaType: 'application/x-msdownload' },
      body: bytes,
    });
    expect(bad.status).toBe(422);
    await sora.do('putReceipt', { params: { expenseId: id }, query: { name: '../r.png', mediaType: 'image/png' }, body: bytes });
    expect((await find(id)).receipt).toEqual({ name: 'r.png', mediaType: 'image/png', bytes: bytes.length });
    expect((await chargeOf(id))[0].odd).toEqual([]);
    expect((await sora.ask('getReceipt', { params: { expenseId: id } })).bytes.equals(bytes)).toBe(true);
    expect((await (await world.as('Deepa')).ask('getReceipt', { params: { expenseId: id } })).status).toBe(404);
    expect((await aoife.ask('getReceipt', { params: { expenseId: id } })).status).toBe(200);
  });

  it('are locked once approved, paid back once, and stand so in the list', async () => {
    const { id, version } = await add();
    const open = () => ngozi.do('listReimbursements', { query: { from: DAY, to: DAY } });
    expect((await open()).rows.some((r) => r.id === id)).toBe(false);
    await approve([{ id, version }]);
    const locked = await sora.ask('editExpense', { params: { expenseId: id }, version: version + 1, body: form({ paid: '99' }) });
    expect([locked.status, detailOf(locked)]).toEqual([409, expect.stringContaining('approved and locked')]);
    const before = await open();
    expect(before.rows.find((r) => r.id === id)).toMatchObject({ amount: { minor: 2460 }, reimbursedOn: null });
    const body = { expenses: [id], distances: [], on: '2026-11-24' };
    expect(await ngozi.do('payBack', { body })).toEqual({ paid: 1 });
    expect((await ngozi.ask('payBack', { body })).status).toBe(412);
    const after = await open();
    expect(after.open.minor).toBe(before.open.minor - 2460);
    const back = await aoife.ask('decideTime', {
      body: { entries: [], expenses: [{ id, version: version + 1 }], decision: 'take back', remark: null },
    });
    expect([back.status, detailOf(back)]).toEqual([409, expect.stringContaining('paid back')]);
  });

  it('are paid with the provider’s money too, which comes back to nobody', async () => {
    const { id, version } = await add({ ownMoney: false });
    await approve([{ id, version }]);
    const { rows } = await ngozi.do('listReimbursements', { query: { from: DAY, to: DAY } });
    expect(rows.some((r) => r.id === id)).toBe(false);
  });
});

describe('distances', () => {
  it('are charged at one rate and paid back at another, both from settings', async () => {
    const ines = await world.as('Ines');
    const settings = { unit: 'miles', rate: '0.9', paidBack: '0.45' };
    expect((await aoife.ask('setDistances', { body: { ...settings, rate: '-1' } })).status).toBe(422);
    await (await world.as('Aoife')).do('setDistances', { body: settings });
    const { activities, distanceUnit } = await ines.do('getHouse');
    expect(distanceUnit).toBe('miles');
    const activityId = activities.find((a) => a.visit)!.id;
    const body = {
      workId,
      startsAt: '2026-11-24T08:00:00Z',
      duration: '60',
      activityId,
      note: 'there',
      billable: true,
      reason: null,
      distance: '42.5',
    };
    expect((await ines.ask('addEntry', { body: { ...body, distance: 'far' } })).status).toBe(422);
    const { id, version } = await ines.do('addEntry', { body });
    const travel = (await world.knex('charge').where({ time_entry_id: id })).find((c) => c.unit === 'SMI');
    expect(travel).toMatchObject({ kind: 'expense', net_minor: 3825 });
    await aoife.do('decideTime', { body: { entries: [{ id, version }], expenses: [], decision: 'approve', remark: null } });
    const { rows } = await ngozi.do('listReimbursements', { query: { from: '2026-11-24', to: '2026-11-24' } });
    expect(rows.find((r) => r.id === id)).toMatchObject({ what: 'distance', amount: { minor: 1913 } });
  });

  it('keep what they were written under when the house sets other terms', async () => {
    const ines = await world.as('Ines');
    const settings = { unit: 'km', rate: '0.6', paidBack: '0.4' };
    await aoife.do('setDistances', { body: settings });
    const activityId = (await ines.do('getHouse')).activities.find((a) => a.visit)!.id;
    const body = {
      workId,
      startsAt: '2026-11-24T09:30:00Z',
      duration: '30',
      activityId,
      note: 'there again',
      billable: true,
      reason: null,
    };
    const { id, version } = await ines.do('addEntry', { body: { ...body, distance: '10' } });
    const travel = async () => (await world.knex('charge').where({ time_entry_id: id })).find((c) => c.kind === 'expense');
    expect(await travel()).toMatchObject({ unit: 'KMT', net_minor: 600 });
    await aoife.do('setDistances', { body: { unit: 'miles', rate: '2', paidBack: '1' } });
    const query = { ...body, note: undefined, reason: undefined, entryId: id, billable: 'true', duration: '45', distance: '20' };
    const asked = Object.fromEntries(Object.entries(query).filter(([, v]) => v !== undefined)) as Record<string, string>;
    expect((await ines.do('previewEntry', { query: asked })).sentence).toContain('20 km €12.00');
    const changed = await ines.do('editEntry', { params: { entryId: id }, version, body: { ...body, duration: '45', distance: '20' } });
    expect(await travel()).toMatchObject({ unit: 'KMT', net_minor: 1200, quantity: '20.0000' });
    const shown = (await ines.do('getDaySheet', { query: { day: '2026-11-24' } })).entries.find((e) => e.id === id)!;
    expect([shown.distance, shown.distanceUnit]).toEqual(['20', 'km']);
    await aoife.do('decideTime', {
      body: { entries: [{ id, version: changed.version }], expenses: [], decision: 'approve', remark: null },
    });
    const { rows } = await ngozi.do('listReimbursements', { query: { from: '2026-11-24', to: '2026-11-24' } });
    expect(rows.find((r) => r.id === id)).toMatchObject({ says: '20 km at 0.4, 45 min', amount: { minor: 800 } });
    // A way that is written from then on goes by the new terms.
    const later = await ines.do('addEntry', { body: { ...body, startsAt: '2026-11-24T10:05:00Z', distance: '10' } });
    expect((await world.knex('charge').where({ time_entry_id: later.id })).find((c) => c.kind === 'expense')).toMatchObject({
      unit: 'SMI',
      net_minor: 2000,
    });
  });
});
