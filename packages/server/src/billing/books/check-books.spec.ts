import { plainMoney } from '@core/ground';
import { startWorld, until, type World } from '../../../testing/test-server';
import { checkBooks } from './check-books';

let world: World;
beforeAll(async () => {
  world = await startWorld();
  const ngozi = await world.as('Ngozi');
  const { id: runId } = (await ngozi.do('listRuns')).rows[0]!;
  const { toIssue } = await ngozi.do('getRun', { params: { runId } });
  await ngozi.do('issueRun', { params: { runId }, body: { ids: null, invoices: toIssue.invoices, netMinor: toIssue.net.minor } });
  await until('all is issued', async () => (await ngozi.do('getRun', { params: { runId } })).state === 'done', 40_000);
  const [invoice] = (await ngozi.do('listInvoices')).rows;
  const { id: invoiceId, clientId, gross } = invoice!;
  await ngozi.do('recordPayment', {
    body: { clientId, invoiceId, amount: plainMoney(gross), receivedOn: '2026-11-24', reference: 'cheque 12' } as never,
  });
});
afterAll(() => world.stop());

/** What is found after the books were changed past the application, without what keeps them from it. */
async function foundAfter(change: string): Promise<string[]> {
  const tx = await world.knex.transaction();
  try {
    await tx.raw('set local session_replication_role = replica');
    await tx.raw(change);
    return [...new Set((await checkBooks(tx as never)).findings.map((f) => f.rule))].sort();
  } finally {
    await tx.rollback();
  }
}

const ONE = `(select id from invoice where kind = 'invoice' order by sequence limit 1)`;
const BILLED = `(select charge_id from billing_link where invoice_id = ${ONE} and net_minor > 0 order by id limit 1)`;

describe('the books', () => {
  it('agree with themselves after all that the demo does', async () => {
    const { documents, charges, findings } = await checkBooks(world.knex);
    expect(findings).toEqual([]);
    expect(documents).toBeGreaterThan(5);
    expect(charges).toBeGreaterThan(50);
  });

  it.each([
    ['update invoice_series set last_number = last_number + 1', ['numbers of documents have no gap and no double']],
    [`update invoice set sequence = 0 where id = ${ONE}`, ['numbers of documents have no gap and no double']],
    [
      `update invoice set net_minor = net_minor + 1, gross_minor = gross_minor + 1 where id = ${ONE}`,
      ['a document comes to the sum of its lines'],
    ],
    [
      `update invoice set tax_minor = tax_minor + 1, gross_minor = gross_minor + 1 where id = ${ONE}`,
      ['the tax of a document is the sum of its rates'],
    ],
    [
      `update invoice_line set net_minor = net_minor + 1 where invoice_id = ${ONE} and position = 1`,
      [
        'a document comes to the sum of its lines',
        'a line bills what it links',
        'the tax of a document is on the sum of its lines, by rate',
      ],
    ],
    [
      `update billing_link set net_minor = net_minor + 1 where invoice_id = ${ONE} and position = 1`,
      ['a line bills what it links', 'what is billed of a charge is the sum of what documents bill of it'],
    ],
    [
      `update charge set billed_minor = billed_minor + 1 where id = ${BILLED}`,
      ['no more of a charge is billed than it is worth', 'what is billed of a charge is the sum of what documents bill of it'],
    ],
    [
      `update invoice_standing set settled_minor = settled_minor + 1 where invoice_id = (select invoice_id from allocation limit 1)`,
      ['no document is settled with more than it comes to', 'what is settled of a document is the sum of what settles it'],
    ],
    [
      `update payment set amount_minor = 1 where id = (select payment_id from allocation limit 1)`,
      ['no payment settles more than was received; the rest is credit'],
    ],
    [
      `update billing_run_invoice set client_id = (select id from client where id <> billing_run_invoice.client_id and id not in (select client_id from billing_run_invoice) limit 1)
        where id = (select id from billing_run_invoice where invoice_id is not null limit 1)`,
      ['a run issues to its client what it says'],
    ],
  ])('show what was done to them: %s', async (change, rules) => {
    expect(await foundAfter(change)).toEqual(rules);
  });
});
