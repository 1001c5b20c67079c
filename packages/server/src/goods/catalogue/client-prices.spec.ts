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
const setPrice = (clientId: string, price: string, basis = 'net') =>
  ngozi.do('setClientPrice', { params: { clientId }, body: { itemId: item.id, price, basis } });

describe("a client's own price", () => {
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
      expect.stringContaining("the client's own price of FEE-01, net"),
    ]);
    // With tax typed, the net price has four places and the amount is rounded once.
    await setPrice(t.client_id, '99.99', 'gross');
    await aoife.do('setFee', { params: { ticketId: t.id }, body: { feeId: fee.id, quantity: 2 } });
    expect(Number((await charge()).net_minor)).toBe(Math.round((99.99 / 1.23) * 2 * 100));
    const { prices } = await aoife.do('listClientPrices', { params: { clientId: t.client_id } });
    expect(prices).toEqual([
      expect.objectContaining({ name: 'Prepare a till', price: '99.99', basis: 'gross', net: '81.2927', catalogueNet: '95' }),
    ]);
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

  it('ends where it is taken away, and is refused below zero or to those who may not', async () => {
    expect((await ngozi.do('removeClientPrice', { params: { clientId: other, itemId: item.id } })).removed).toBe(1);
    expect((await aoife.do('listClientPrices', { params: { clientId: other } })).prices).toEqual([]);
    const ask = (by: Script, price: string) =>
      by.ask('setClientPrice', { params: { clientId: other }, body: { itemId: item.id, price, basis: 'net' } });
    expect(detailOf(await ask(ngozi, '-1'))).toContain('-1 was given');
    expect((await ask(await world.as('Deepa'), '5')).status).toBe(403);
  });
});
