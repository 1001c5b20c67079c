import { coverRule } from '../../../testing/contract-forms';
import { drawnContract } from '../../../testing/drawn-contract';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let hanna: Script;
let deepa: Script;
beforeAll(async () => {
  world = await startWorld();
  [hanna, deepa] = [await world.as('Hanna'), await world.as('Deepa')];
});
afterAll(() => world.stop());

const drawn = (preset: string, more: { readonly grant: string; readonly price: string; readonly lastDay?: string }) =>
  drawnContract({ world, hanna, deepa }, { preset, ...more });

describe('an allowance that is amended', () => {
  it('grants another amount from a day on, and what was before stays as it was', async () => {
    const { contractId, allowanceId, contract, record, drew } = await drawn('hours each month', { grant: '1', price: '100' });
    const october = await record('2026-10-20T08:00:00Z', '90');
    const november = await record('2026-11-20T08:00:00Z', '90');
    expect([await drew(october), await drew(november)]).toEqual([['2026-10-01 60'], ['2026-11-01 60']]);
    const params = { contractId, allowanceId };
    await hanna.do('setGrant', { params, body: { from: '2026-11-01', grant: '2' } });
    expect([await drew(october), await drew(november)]).toEqual([['2026-10-01 60'], ['2026-11-01 90']]);
    expect((await contract()).allowances[0]).toMatchObject({ grant: '1', later: [{ from: '2026-11-01', grant: '2' }] });
    const refused = await hanna.ask('setGrant', { params, body: { from: '2026-09-01', grant: '2' } });
    expect(refused.body).toMatchObject({ status: 422, fields: { from: 'after 2026-09-01' } });
    expect((await hanna.ask('setGrant', { params, body: { from: '2026-12-01', grant: '0.001' } })).status).toBe(422);
    expect((await deepa.ask('setGrant', { params, body: { from: '2026-12-01', grant: '3' } })).status).toBe(403);
    await hanna.do('takeGrantAway', { params, body: { from: '2026-11-01' } });
    expect(await drew(november)).toEqual(['2026-11-01 60']);
    expect((await hanna.ask('takeGrantAway', { params, body: { from: '2026-11-01' } })).status).toBe(404);
  });

  it('covers by a rule on its days, and by the desk and the kind of ticket', async () => {
    const { contractId, ticketId, allowanceId, contract, record, effectOf } = await drawn('hours each month', {
      grant: '10',
      price: '100',
    });
    const [october, november] = [await record('2026-10-20T08:00:00Z', '30'), await record('2026-11-20T08:00:00Z', '30')];
    const set = async (...rules: ReturnType<typeof coverRule>[]) =>
      hanna.ask('setCover', { params: { contractId }, version: (await contract()).version, body: { rules } });
    const is = async () => [(await effectOf(october)).is, (await effectOf(november)).is];
    await set(coverRule({ allowanceId, lastDay: '2026-10-31' }));
    expect(await is()).toEqual(['covered', 'charged']);
    expect((await contract()).cover[0]).toMatchObject({ startsOn: null, lastDay: '2026-10-31' });
    await set(coverRule({ allowanceId, startsOn: '2026-11-01' }));
    expect(await is()).toEqual(['charged', 'covered']);
    const wrong = await set(coverRule({ allowanceId, startsOn: '2026-11-01', lastDay: '2026-10-01' }));
    expect(wrong.body).toMatchObject({ status: 422, fields: { 'rules.0.lastDay': '2026-11-01 or later' } });
    const ticket = await world.knex('ticket').where({ id: ticketId }).first('desk_id', 'kind');
    await set(coverRule({ allowanceId, deskIds: [ticket.desk_id], kinds: [ticket.kind] }));
    expect(await is()).toEqual(['covered', 'covered']);
    const desk = await world.knex('desk').where({ id: ticket.desk_id }).first('name');
    expect((await contract()).cover[0]!.says).toBe(`${desk.name}, ${ticket.kind}`);
    await set(coverRule({ allowanceId, kinds: ['some other kind'] }));
    expect(await is()).toEqual(['charged', 'charged']);
  });
});

describe('prepaid blocks', () => {
  it('are drawn on their days by their expiry, and each is billed once', async () => {
    const { contractId, allowanceId, contract, record, drew } = await drawn('prepaid hours', {
      grant: '2',
      price: '180',
      lastDay: '2027-08-31',
    });
    expect((await contract()).allowances[0]).toMatchObject({
      grant: '0',
      blocks: [{ startsOn: '2026-09-01', lastDay: '2027-08-31', grant: '2' }],
    });
    const params = { contractId, allowanceId };
    const sell = (body: object) => hanna.ask('addBlock', { params, body: { price: '100', lastDay: null, ...body } as never });
    expect((await sell({ grant: '1', startsOn: '2026-11-01', lastDay: '2026-11-30' })).status).toBe(200);
    // What expires first is drawn first.
    expect(await drew(await record('2026-11-20T08:00:00Z', '90'))).toEqual(['2026-11-01 60', '2026-09-01 30']);
    expect((await sell({ grant: '1', startsOn: '2026-11-01' })).body).toMatchObject({ status: 409, fields: { startsOn: 'another day' } });
    expect((await sell({ grant: '1', startsOn: '2026-08-31' })).status).toBe(422);
    expect((await sell({ grant: '1', startsOn: '2027-09-01' })).status).toBe(422);
    expect((await sell({ grant: '0', startsOn: '2026-12-01' })).status).toBe(422);
    const { due, total } = await hanna.do('getNextInvoice', { params: { contractId }, query: { on: '2026-11-24' } });
    expect(due.map((d) => [d.line, d.from, d.amount.minor])).toEqual([
      ['Prepaid hours, 2 h', '2026-09-01', 18_000],
      ['Prepaid hours, 1 h', '2026-11-01', 10_000],
    ]);
    expect(total.minor).toBe(28_000);
    await hanna.do('proposeRecurring', { params: { contractId }, body: { on: '2026-11-24' } });
    const charges = await world.knex('charge').where({ contract_id: contractId }).orderBy('period').select('description', 'net_minor');
    expect(charges.map((c) => [c.description, c.net_minor])).toEqual([
      ['Prepaid hours, 2 h, 1 September 2026', 18_000],
      ['Prepaid hours, 1 h, 1 November 2026', 10_000],
    ]);
  });

  it('are of what is granted once alone', async () => {
    const { contractId, allowanceId } = await drawn('hours each month', { grant: '1', price: '100' });
    const body = { grant: '1', price: '90', startsOn: '2026-11-01', lastDay: null };
    expect((await hanna.ask('addBlock', { params: { contractId, allowanceId }, body })).status).toBe(409);
    const prepaid = await drawn('prepaid hours', { grant: '1', price: '90' });
    const params = { contractId: prepaid.contractId, allowanceId: prepaid.allowanceId };
    expect((await hanna.ask('setGrant', { params, body: { from: '2026-11-01', grant: '2' } })).status).toBe(409);
  });

  it('go as if never sold while nothing of them was decided on, and come back', async () => {
    const { contractId, contract, record, effectOf } = await drawn('prepaid hours', { grant: '2', price: '180' });
    const entry = await record('2026-11-20T08:00:00Z', '30');
    await hanna.do('proposeRecurring', { params: { contractId }, body: { on: '2026-11-24' } });
    const [line] = (await contract()).lines;
    const params = { contractId, lineId: line!.id };
    const gone = await hanna.do('takeLineAway', { params, version: line!.version });
    expect(await contract()).toMatchObject({ lines: [], allowances: [{ blocks: [] }] });
    expect([(await effectOf(entry)).is, await world.knex('charge').where({ contract_line_id: line!.id })]).toEqual(['charged', []]);
    expect((await hanna.ask('takeLineAway', { params, version: gone.version })).status).toBe(404);
    await hanna.do('giveLineBack', { params, version: gone.version });
    expect((await effectOf(entry)).is).toBe('covered');
    await hanna.do('proposeRecurring', { params: { contractId }, body: { on: '2026-11-24' } });
    await world.knex('charge').where({ contract_line_id: line!.id }).update({ state: 'approved' });
    const refused = await hanna.ask('takeLineAway', { params, version: (await contract()).lines[0]!.version });
    expect(refused.body).toMatchObject({
      status: 409,
      detail: 'Something of Prepaid hours, 2 h was billed or decided on: end it instead.',
    });
    expect((await contract()).lines).toHaveLength(1);
  });

  it('can be sold anew on the day of one that was taken away, which then does not come back beside it', async () => {
    const { contractId, allowanceId, contract } = await drawn('prepaid hours', { grant: '2', price: '180' });
    const [line] = (await contract()).lines;
    const params = { contractId, lineId: line!.id };
    const gone = await hanna.do('takeLineAway', { params, version: line!.version });
    const block = { grant: '3', price: '250', startsOn: '2026-09-01', lastDay: null };
    await hanna.do('addBlock', { params: { contractId, allowanceId }, body: block });
    expect((await contract()).allowances[0]!.blocks.map((b) => b.grant)).toEqual(['3']);
    const back = await hanna.ask('giveLineBack', { params, version: gone.version });
    expect(back.body).toMatchObject({ status: 409, detail: 'Something is granted from 2026-09-01 already.' });
  });

  it('rise in the chart on their day, and the levels are told anew with each', async () => {
    const { contractId, allowanceId, contract, record } = await drawn('prepaid hours', { grant: '2', price: '180' });
    await record('2026-11-02T08:00:00Z', '105');
    const told = () => world.knex('notice').where('text', 'like', `${number} Support: % of Prepaid hours is used%`).pluck('text');
    const { number } = await contract();
    expect((await told())[0]).toContain('87 % of Prepaid hours is used, 15 min left');
    const before = (await told()).length;
    const block = { grant: '2', price: '170', startsOn: '2026-11-10', lastDay: null };
    await hanna.do('addBlock', { params: { contractId, allowanceId }, body: block });
    const { allowances } = await hanna.do('getContractTime', { params: { contractId }, query: { on: '2026-11-24' } });
    expect(allowances[0]).toMatchObject({ granted: 240, left: 135, used: 105, usedPercent: 43 });
    expect(allowances[0]!.points).toEqual([
      { on: '2026-09-01', left: 120 },
      { on: '2026-11-02', left: 15 },
      { on: '2026-11-10', left: 135 },
    ]);
    await record('2026-11-20T08:00:00Z', '105');
    expect((await told()).length).toBeGreaterThan(before);
  });
});
