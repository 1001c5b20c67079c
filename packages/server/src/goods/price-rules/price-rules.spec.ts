import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let ngozi: Script;
let t: { id: string; client_id: string };
let other: string;
let item: { id: string; name: string };
beforeAll(async () => {
  world = await startWorld();
  [aoife, ngozi] = [await world.as('Aoife'), await world.as('Ngozi')];
  t = await world
    .knex('ticket as t')
    .join('client as c', 'c.id', 't.client_id')
    .where({ 't.status': 'queued', 't.kind': 'service request', 'c.tax_exempt': false })
    .whereNull('t.umbrella_id')
    .orderBy('t.number')
    .first('t.id', 't.client_id');
  other = (await world.knex('client').whereNot({ id: t.client_id }).where({ tax_exempt: false }).orderBy('number').first('id')).id;
  item = await world.knex('catalogue_item').where({ name: 'Prepare a till' }).first('id', 'name');
});
afterAll(() => world.stop());

const charge = async () => world.knex('charge').where({ ticket_id: t.id, item_id: item.id }).first();
const form = (more: object = {}) => ({
  ...{ contractId: null, clientId: null, itemId: item.id, category: null, fromQuantity: '1', from: '2026-11-01', lastDay: null },
  ...{ sets: 'price' as const, price: '80', basis: 'net' as const, percent: null },
  ...more,
});
const addRule = (more: object) => ngozi.do('addPriceRule', { body: form(more) as never });
/** The client's price in place of the one before. */
async function setPrice(clientId: string, price: string, basis = 'net') {
  for (const { id } of (await rulesOf(clientId)).rules) await ngozi.do('takePriceRuleAway', { params: { priceRuleId: id } });
  return addRule({ clientId, price, basis });
}
const rulesOf = (clientId: string) => ngozi.do('listPriceRules', { query: { clientId } });

describe('a price rule', () => {
  it('is what a flat-fee job costs them, once and by quantity, and says where it comes from', async () => {
    await setPrice(t.client_id, '80.00');
    const fee = (await aoife.do('listFees')).fees.find((f) => f.name === 'Prepare a till')!;
    await aoife.do('changeKind', {
      params: { ticketId: t.id },
      version: (await aoife.do('getTicket', { params: { ticketId: t.id } })).version,
      body: { kind: 'flat-fee job' },
    });
    await aoife.do('setFee', { params: { ticketId: t.id }, body: { feeId: fee.id, quantity: 3 } });
    const row = await charge();
    expect([Number(row.net_minor), row.explanation[0].rule]).toEqual([
      24_000,
      expect.stringContaining("the client's price rule for FEE-01: €80.00 without tax"),
    ]);
    // With tax typed, the net price has four places and the amount is rounded once.
    await setPrice(t.client_id, '99.99', 'gross');
    await aoife.do('setFee', { params: { ticketId: t.id }, body: { feeId: fee.id, quantity: 2 } });
    expect(Number((await charge()).net_minor)).toBe(Math.round((99.99 / 1.23) * 2 * 100));
    const { rules } = await rulesOf(t.client_id);
    expect(rules).toMatchObject([
      { item: 'Prepare a till', from: '2026-11-01', lastDay: null, sets: { is: 'price', price: '99.99', basis: 'gross' } },
    ]);
  });

  it('is for a quantity, for days, for a category, and of a contract before all others', async () => {
    const { category } = (await world.knex('catalogue_item').where({ id: item.id }).first('category'))!;
    const fee = (await aoife.do('listFees')).fees.find((f) => f.name === 'Prepare a till')!;
    const costs = async (quantity: number) => {
      await aoife.do('setFee', { params: { ticketId: t.id }, body: { feeId: fee.id, quantity } });
      return Number((await charge()).net_minor);
    };
    await setPrice(t.client_id, '80');
    await addRule({ clientId: t.client_id, fromQuantity: '5', price: '70' });
    expect([await costs(4), await costs(5)]).toEqual([32_000, 35_000]);
    // Over, or not begun: neither counts.
    await addRule({ clientId: t.client_id, fromQuantity: '5', price: '1', from: '2026-11-02', lastDay: '2026-11-23' });
    await addRule({ clientId: t.client_id, fromQuantity: '5', price: '2', from: '2026-11-25' });
    expect(await costs(5)).toBe(35_000);
    const last = await addRule({ clientId: t.client_id, fromQuantity: '5', price: '60', from: '2026-11-02', lastDay: '2026-11-24' });
    expect(await costs(5)).toBe(30_000);
    await ngozi.do('takePriceRuleAway', { params: { priceRuleId: last.id } });
    expect(await costs(5)).toBe(35_000);
    const contract = await world.knex('contract').where({ client_id: t.client_id }).whereNotNull('agreed_at').first('id');
    if (contract) {
      const off = await addRule({ contractId: contract.id, itemId: null, category, sets: 'percent off', price: null, percent: '50' });
      expect(await costs(2)).toBe(9500);
      await ngozi.do('takePriceRuleAway', { params: { priceRuleId: off.id } });
    }
  });

  it('says what it would have done before it is saved, and writes nothing', async () => {
    const waits = await world.knex('charge').whereNotNull('item_id').orderBy('id').select('id', 'net_minor', 'unit_price');
    const rule = form({ clientId: t.client_id, sets: 'percent off', price: null, percent: '100', fromQuantity: '1' });
    const tried = await ngozi.do('tryPriceRule', { body: { ...rule, fromQuantity: '1' } as never });
    const mine = await world
      .knex('charge')
      .where({ client_id: t.client_id, item_id: item.id })
      .whereNotIn('state', ['waived', 'withdrawn'])
      .whereBetween('on_date', ['2026-08-26', '2026-11-24']);
    expect([tried.charges, tried.differ]).toEqual([mine.length, mine.filter((c) => Number(c.quantity) < 5 && Number(c.net_minor)).length]);
    expect(await world.knex('charge').whereNotNull('item_id').orderBy('id').select('id', 'net_minor', 'unit_price')).toEqual(waits);
    expect((await rulesOf(t.client_id)).rules.some((r) => r.sets.is === 'percent off')).toBe(false);
  });

  it('that never bills leaves the price and asks a person', async () => {
    const never = await addRule({ clientId: t.client_id, sets: 'never billed', price: null, fromQuantity: '9' });
    const fee = (await aoife.do('listFees')).fees.find((f) => f.name === 'Prepare a till')!;
    await aoife.do('setFee', { params: { ticketId: t.id }, body: { feeId: fee.id, quantity: 9 } });
    const row = await charge();
    expect([Number(row.net_minor), row.odd, row.oddities.map((o: { is: string }) => o.is)]).toEqual([
      63_000,
      ['never billed'],
      ['never billed'],
    ]);
    expect(JSON.stringify(row.explanation)).toContain('never billed');
    await ngozi.do('takePriceRuleAway', { params: { priceRuleId: never.id } });
    await ngozi.do('givePriceRuleBack', { params: { priceRuleId: never.id } });
    expect((await ngozi.ask('givePriceRuleBack', { params: { priceRuleId: never.id } })).status).toBe(404);
    await ngozi.do('takePriceRuleAway', { params: { priceRuleId: never.id } });
    await aoife.do('setFee', { params: { ticketId: t.id }, body: { feeId: fee.id, quantity: 2 } });
  });

  it('follows a ticket to another client: what is proposed costs what they pay', async () => {
    await setPrice(other, '70');
    await aoife.do('moveToClient', {
      params: { ticketId: t.id },
      version: (await aoife.do('getTicket', { params: { ticketId: t.id } })).version,
      body: { clientId: other, contactId: null, seen: true },
    });
    expect(Number((await charge()).net_minor)).toBe(14_000);
    expect((await charge()).client_id).toBe(other);
  });

  it('is refused where it says nothing, too much or what is not, and to those who may not', async () => {
    const ask = async (more: object, by = ngozi) => by.ask('addPriceRule', { body: form(more) as never });
    expect(detailOf(await ask({ price: '-1' }))).toContain('zero or more');
    expect(detailOf(await ask({ price: null }))).toContain('say what one costs');
    expect(detailOf(await ask({ sets: 'percent off', percent: '101' }))).toContain('from 0 to 100');
    expect(detailOf(await ask({ lastDay: '2026-10-31' }))).toContain('not before its first day');
    expect(detailOf(await ask({ category: 'jobs' }))).toContain('an item or a category');
    expect((await ask({ clientId: t.client_id }, await world.as('Deepa'))).status).toBe(403);
    expect((await ask({ clientId: item.id })).status).toBe(404);
  });
});
