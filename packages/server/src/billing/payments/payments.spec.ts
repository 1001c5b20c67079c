import { bookedSales, postToLedger, startBilling } from '../../../testing/billing';
import { startWorld, until, type World } from '../../../testing/test-server';

let world: World;
let stage: Awaited<ReturnType<typeof startBilling>>;
beforeAll(async () => {
  world = await startWorld();
  stage = await startBilling(world);
});
afterAll(() => world.stop());

const CLIENT = 'Larkspur Seed Co-op';
let hour = 8;
async function issued(client = CLIENT, duration = '1h') {
  const t = await stage.ticketOf(client);
  await stage.record(t.id, `2026-11-19T${String(hour++).padStart(2, '0')}:00:00Z`, { duration });
  const { gross } = await stage.clear(t.client_id);
  const { id, number } = await stage.billing.do('issueInvoice', {
    body: { clientId: t.client_id, chargeIds: null, grossMinor: gross.minor },
  });
  return { id, number, gross, clientId: t.client_id as string };
}
const get = (invoiceId: string) => stage.billing.do('getInvoice', { params: { invoiceId } });
const major = (minor: number) => (minor / 100).toFixed(2);
const pay = ({
  clientId,
  minor,
  invoiceId = null,
  reference = 'cheque 12',
}: {
  readonly clientId: string;
  readonly minor: number;
  readonly invoiceId?: string | null;
  readonly reference?: string;
}) => stage.billing.do('recordPayment', { body: { clientId, amount: major(minor), receivedOn: '2026-11-24', reference, invoiceId } });
const credit = async (clientId: string) => (await stage.billing.do('listCredit', { query: { clientId, left: 'true' } })).rows;

describe('payments', () => {
  it('settle an invoice, and what is over is the credit of the client that settles the next', async () => {
    const [first, second] = [await issued(), await issued()];
    const { id } = await pay({ clientId: first.clientId, minor: first.gross.minor + 1500, invoiceId: first.id });
    expect((await get(first.id)).state).toBe('paid');
    expect(await credit(first.clientId)).toMatchObject([{ source: 'payment', id, name: 'cheque 12', left: { minor: 1500 } }]);
    const done = await stage.billing.do('settleInvoice', {
      params: { invoiceId: second.id },
      body: { source: 'payment', sourceId: id, amount: null },
    });
    expect(done.amount.minor).toBe(1500);
    expect((await get(second.id)).left.minor).toBe(second.gross.minor - 1500);
    expect(await credit(first.clientId)).toEqual([]);
    const none = await stage.billing.ask('settleInvoice', {
      params: { invoiceId: second.id },
      body: { source: 'payment', sourceId: id, amount: null },
    });
    expect(none.body).toMatchObject({ status: 409, detail: expect.stringContaining('Nothing is left of cheque 12') });
  });

  it('settle with some of a credit note, are taken back with a reason, and can be used again', async () => {
    const [first, second] = [await issued(), await issued()];
    await pay({ clientId: first.clientId, minor: first.gross.minor, invoiceId: first.id });
    const note = await stage.billing.do('creditInvoice', {
      params: { invoiceId: first.id },
      body: { lines: null, undoes: false, reason: 'goodwill' },
    });
    expect(await credit(first.clientId)).toMatchObject([{ source: 'credit note', name: note.number, left: first.gross }]);
    const settle = (amount: string | null) =>
      stage.billing.ask('settleInvoice', { params: { invoiceId: second.id }, body: { source: 'credit note', sourceId: note.id, amount } });
    expect((await settle(major(first.gross.minor + 1))).body).toMatchObject({
      status: 422,
      fields: { amount: expect.stringContaining('at most') },
    });
    expect((await settle('10')).status).toBe(200);
    const [settlement] = (await get(second.id)).settlements;
    expect(settlement).toMatchObject({
      amount: { minor: 1000 },
      from: 'credit note',
      otherDocument: { number: note.number },
      takenBack: false,
    });
    const takeBack = (settlementId: string) =>
      stage.billing.ask('takeSettlementBack', { params: { settlementId }, body: { reason: 'wrong invoice' } });
    expect((await takeBack(settlement!.id)).status).toBe(200);
    const seen = await get(second.id);
    expect([seen.left, seen.settlements.map((s) => [s.amount.minor, s.takenBack])]).toEqual([
      second.gross,
      [
        [1000, true],
        [-1000, true],
      ],
    ]);
    expect((await takeBack(settlement!.id)).status).toBe(409);
    expect((await takeBack(seen.settlements[1]!.id)).status).toBe(409);
    expect((await get(note.id)).left).toEqual(first.gross);
    expect((await settle(null)).status).toBe(200);
    expect(seen.story.at(-1)).toMatchObject({ what: `€10.00 from ${note.number} taken back`, detail: 'wrong invoice' });
  });

  it('for an invoice that is not ours are kept, until somebody says whose they are', async () => {
    const mine = await issued();
    await until('booked', async () => (await get(mine.id)).ledgerAt);
    const sale = (await bookedSales(world)).find((s) => s.reference === mine.number)!;
    await postToLedger(world, `/sales/${sale.id}/receipts`, { amount: '5.00', reference: 'ZZ-1' });
    const found = async () => (await stage.billing.do('listCredit', { query: { left: 'true', q: 'ZZ-1' } })).rows;
    const unknown = await until('the money', async () => (await found())[0]);
    expect(unknown).toMatchObject({ source: 'payment', clientId: null, client: null, left: { minor: 500 } });
    const settle = () =>
      stage.billing.ask('settleInvoice', {
        params: { invoiceId: mine.id },
        body: { source: 'payment', sourceId: unknown.id, amount: null },
      });
    expect((await settle()).body).toMatchObject({ status: 409, detail: expect.stringContaining("nobody's yet") });
    const params = { paymentId: unknown.id };
    await stage.billing.do('setPaymentClient', { params, body: { clientId: mine.clientId } });
    expect((await stage.billing.ask('setPaymentClient', { params, body: { clientId: mine.clientId } })).status).toBe(409);
    expect((await settle()).status).toBe(200);
    expect((await get(mine.id)).state).toBe('part paid');
  });

  it('used by two at once are used once', async () => {
    const invoices = [await issued(), await issued(), await issued()];
    const { id } = await pay({ clientId: invoices[0]!.clientId, minor: 2000 });
    const answers = await Promise.all(
      invoices.map((i) =>
        stage.billing.ask('settleInvoice', { params: { invoiceId: i.id }, body: { source: 'payment', sourceId: id, amount: '15' } }),
      ),
    );
    expect(answers.map((a) => a.status).sort()).toEqual([200, 422, 422]);
    const used = await world.knex('allocation').where({ payment_id: id }).sum('amount_minor as n').first();
    expect(Number(used!['n'])).toBe(1500);
  });

  it('are of one client, and say what is wrong by the field', async () => {
    const mine = await issued();
    const other = await world.knex('client').whereNot({ id: mine.clientId }).whereNull('archived_at').first('id');
    const record = (body: object) =>
      stage.billing.ask('recordPayment', {
        body: { clientId: mine.clientId, amount: '10', receivedOn: '2026-11-24', reference: 'cheque', invoiceId: null, ...body },
      });
    expect((await record({ amount: '10.005' })).body).toMatchObject({ fields: { amount: 'an amount such as 120.50' } });
    expect((await record({ amount: '0' })).body).toMatchObject({ fields: { amount: 'above zero' } });
    expect((await record({ receivedOn: '2026-11-25' })).body).toMatchObject({ fields: { receivedOn: 'today or a day before' } });
    expect((await record({ reference: '' })).body).toMatchObject({ fields: { reference: 'write something' } });
    expect((await record({ clientId: other.id, invoiceId: mine.id })).body).toMatchObject({
      fields: { invoiceId: 'an invoice of this client' },
    });
    const { id } = await pay({ clientId: other.id, minor: 1000 });
    const settle = { params: { invoiceId: mine.id }, body: { source: 'payment' as const, sourceId: id, amount: null } };
    expect((await stage.billing.ask('settleInvoice', settle)).body).toMatchObject({ detail: expect.stringContaining("another client's") });
    expect((await (await world.as('Sora')).ask('settleInvoice', settle)).status).toBe(403);
  });

  it('and what they settle are only ever added to', async () => {
    for (const table of ['allocation', 'payment', 'billing_link']) await expect(world.knex(table).delete()).rejects.toThrow('append-only');
    await expect(world.knex('payment').update({ amount_minor: 1 })).rejects.toThrow('append-only');
    const settled = await world.knex.raw(
      `select s.invoice_id from invoice_standing s join invoice i on i.id = s.invoice_id
        where s.settled_minor <> coalesce((select sum(amount_minor) from allocation a where s.invoice_id in (a.invoice_id, a.credit_note_id)), 0) or s.settled_minor > i.gross_minor`,
    );
    expect(settled.rows).toEqual([]);
  });
});
