import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startBilling } from '../../../testing/billing';
import { startWorld, type World } from '../../../testing/test-server';

let world: World;
let stage: Awaited<ReturnType<typeof startBilling>>;
const folder = mkdtempSync(join(tmpdir(), 'journal-'));
beforeAll(async () => {
  world = await startWorld();
  stage = await startBilling(world);
});
afterAll(() => world.stop());

const DAYS = { from: '2026-01-01', to: '2026-12-31' };
const text = async (name: 'getLedgerJournal' | 'getBeancountJournal' | 'getAccountSums', days = DAYS): Promise<string> =>
  (await stage.billing.ask(name, { query: days })).bytes.toString('utf8');
const sumOf = async (what: string) =>
  Number(
    (await world.knex.raw(`select coalesce(sum(${what.split(' of ')[0]}), 0)::bigint as sum from ${what.split(' of ')[1]}`)).rows[0].sum,
  );
const run = (command: string, ...args: string[]) => execFileSync(command, args, { encoding: 'utf8' });

describe('the journal', () => {
  beforeAll(async () => {
    for (const [n, client] of ['Larkspur Seed Co-op', 'Hollin Veterinary Group', 'Vantry Touring Orchestra'].entries()) {
      const t = await stage.ticketOf(client);
      await stage.record(t.id, `2026-11-19T${String(8 + n).padStart(2, '0')}:00:00Z`, {
        duration: `${n + 1}h`,
        note: 'a "quote"; (and) | more',
      });
      const { gross } = await stage.clear(t.client_id);
      const { id } = await stage.billing.do('issueInvoice', { body: { clientId: t.client_id, chargeIds: null, grossMinor: gross.minor } });
      const payment = {
        clientId: t.client_id,
        amount: '50',
        receivedOn: '2026-11-24',
        reference: `cheque "${n}"; (of) ${client}`,
        invoiceId: id,
      };
      await stage.billing.do('recordPayment', { body: payment });
      if (!n)
        await stage.billing.do('creditInvoice', { params: { invoiceId: id }, body: { lines: null, undoes: true, reason: 'all of it' } });
    }
    const csv = 'Date;Amount;Text\n2026-11-24;12.34;known to nobody';
    await stage.billing.ask('readBankFile', { query: { name: 'x.csv' } as never, body: Buffer.from(csv) as never });
    const [line] = (await stage.billing.do('listBankLines', { query: { state: 'open' } as never })).rows;
    const { client_id: clientId } = await stage.ticketOf('Hollin Veterinary Group');
    await stage.billing.do('matchBankLine', { body: { lineId: line!.id, clientId, settles: [], paymentId: null } });
    await stage.billing.do('takeMatchesBack', { body: { ids: [line!.id] } });
  });

  it('is taken by readers that nobody here wrote, and says what the books say', async () => {
    const [ledger, beancount] = [join(folder, 'all.ledger'), join(folder, 'all.beancount')];
    writeFileSync(ledger, await text('getLedgerJournal'));
    writeFileSync(beancount, await text('getBeancountJournal'));
    expect(run('hledger', '-f', ledger, 'check', '--strict')).toBe('');
    expect(run('bean-check', beancount)).toBe('');
    const documents = await sumOf(`case when kind = 'invoice' then gross_minor else -gross_minor end of invoice`);
    const received = (await sumOf('amount_minor of payment')) - (await sumOf('amount_minor of payment_return'));
    const owed = run('ledger', '-f', ledger, '--strict', '--pedantic', '--flat', 'balance', '^Assets:Receivable')
      .trim()
      .split('\n')
      .at(-1)!;
    expect(Math.round(Number(owed.replace(/[^\d.-]/g, '')) * 100)).toBe(documents - received);
    const bank = run('hledger', '-f', ledger, 'balance', 'Assets:Receipts', '-O', 'csv', '-N').trim().split(',').at(-1)!;
    expect(Math.round(Number(bank.replace(/[^\d.-]/g, '')) * 100)).toBe(received);
  });

  it('sums accounts by month, and takes only days in order', async () => {
    const rows = (await text('getAccountSums'))
      .trim()
      .split('\r\n')
      .map((row) => row.split(','));
    expect(rows[0]).toEqual(['month', 'account', 'debit', 'credit', 'currency']);
    const cents = (at: number) => rows.slice(1).reduce((sum, row) => sum + Math.round(Number(row[at]) * 100), 0);
    expect(cents(2)).toBe(cents(3));
    expect(cents(2)).toBeGreaterThan(0);
    const none = await text('getLedgerJournal', { from: '2026-01-01', to: '2026-01-02' });
    expect(none).not.toContain('2026');
    const wrong = await stage.billing.ask('getAccountSums', { query: { from: '2026-02-01', to: '2026-01-01' } });
    expect(wrong.body).toMatchObject({ status: 422, fields: { from: '2026-01-01 or a day before' } });
    expect((await stage.technician.ask('getAccountSums', { query: DAYS })).status).toBe(403);
  });
});
