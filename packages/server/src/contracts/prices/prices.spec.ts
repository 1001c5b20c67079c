import { ownClient } from '../../../testing/own-client';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let hanna: Script;
let contractId: string;
let lineId: string;
beforeAll(async () => {
  world = await startWorld();
  hanna = await world.as('Hanna');
  const { clientId } = await ownClient(world);
  const body = { clientId, name: 'Care', startsOn: '2026-11-01', lastDay: null, preset: 'everything covered', grant: null, price: '100' };
  ({ id: contractId } = await hanna.do('createContract', { body: body as never }));
  const { version, lines } = await hanna.do('getContract', { params: { contractId } });
  lineId = lines[0]!.id;
  await hanna.do('agreeContract', { params: { contractId }, version });
});
afterAll(() => world.stop());

const due = async () => {
  const { due } = await hanna.do('getNextInvoice', { params: { contractId }, query: { on: '2026-12-31' } });
  return due.map((d) => [d.period, d.amount.minor]);
};
const line = async () => (await hanna.do('getContract', { params: { contractId } })).lines[0]!;
const discount = (more: object) =>
  hanna.ask('addDiscount', {
    params: { contractId, lineId },
    body: { percent: null, money: null, from: '2026-12-01', lastDay: '2026-12-31', ...more } as never,
  });

describe('prices of a contract', () => {
  it('are less by a discount on its days, in percent or money, until it is taken away', async () => {
    expect(await due()).toEqual([
      ['November 2026', 10_000],
      ['December 2026', 10_000],
      ['January 2027', 10_000],
    ]);
    expect((await discount({})).body).toMatchObject({ status: 422, detail: expect.stringContaining('one of the two') });
    expect((await discount({ percent: '10', money: '5' })).status).toBe(422);
    expect((await discount({ percent: '101' })).body).toMatchObject({ fields: { percent: 'above 0' } });
    expect((await discount({ percent: '10', lastDay: '2026-11-01' })).body).toMatchObject({ fields: { lastDay: '2026-12-01 or later' } });
    expect((await discount({ percent: '10' })).status).toBe(200);
    expect((await discount({ money: '5', lastDay: null })).status).toBe(200);
    expect((await due()).slice(1)).toEqual([
      ['December 2026', 8500],
      ['January 2027', 9500],
    ]);
    const { discounts } = await line();
    expect(discounts.map((d) => [d.percent, d.money, d.lastDay])).toEqual(
      expect.arrayContaining([
        ['10', null, '2026-12-31'],
        [null, '5', null],
      ]),
    );
    for (const d of discounts) await hanna.do('takeDiscountAway', { params: { contractId, discountId: d.id } });
    expect((await due()).map(([, minor]) => minor)).toEqual([10_000, 10_000, 10_000]);
    expect((await hanna.ask('takeDiscountAway', { params: { contractId, discountId: discounts[0]!.id } })).status).toBe(404);
  });

  it('rise together by percent from a day on, and what waits in charge review follows', async () => {
    await hanna.do('proposeRecurring', { params: { contractId }, body: { on: '2026-12-31' } });
    const waiting = async () =>
      (await world.knex('charge').where({ contract_id: contractId }).orderBy('period').select('net_minor')).map((c) => c.net_minor);
    expect(await waiting()).toEqual([10_000, 10_000, 10_000]);
    const raise = (body: object) =>
      hanna.ask('raisePrices', { params: { contractId }, body: { percent: null, indexThen: null, indexNow: null, ...body } as never });
    expect((await raise({ percent: '0', from: '2027-01-01' })).status).toBe(422);
    expect((await raise({ percent: '3', from: '2026-10-01' })).body).toMatchObject({
      status: 409,
      fields: { from: 'a day on which all lines have begun' },
    });
    const from = '2027-01-01';
    for (const wrong of [{}, { percent: '3', indexThen: '100', indexNow: '103' }, { indexThen: '100' }, { percent: '3', indexNow: '103' }])
      expect((await raise({ ...wrong, from })).body).toMatchObject({
        status: 422,
        fields: { percent: 'percent, or the index then and now' },
      });
    expect((await raise({ indexThen: '100', indexNow: '201', from })).body).toMatchObject({
      status: 422,
      fields: { indexNow: 'another figure, at most twice 100' },
    });
    expect((await raise({ indexThen: '118.2', indexNow: '121.4', from })).body).toEqual({ raised: 1 });
    expect((await line()).prices).toEqual([{ from, price: '102.71', tiers: [] }]);
    await hanna.do('takePriceAway', { params: { contractId, lineId }, body: { from } });
    expect((await raise({ percent: '3.555', from: '2027-01-01' })).body).toEqual({ raised: 1 });
    expect((await line()).prices).toEqual([{ from: '2027-01-01', price: '103.56', tiers: [] }]);
    expect(await waiting()).toEqual([10_000, 10_000, 10_356]);
    const away = (from: string) => hanna.ask('takePriceAway', { params: { contractId, lineId }, body: { from } });
    expect((await away('2026-11-01')).body).toMatchObject({ status: 404, fields: { from: 'the day of a price after the first' } });
    expect((await away('2027-01-01')).status).toBe(200);
    expect((await line()).prices).toEqual([]);
    expect(await waiting()).toEqual([10_000, 10_000, 10_000]);
  });
});
