import { startBilling } from '../../../packages/server/testing/billing';
import { openStage } from '../../browser';

const [stage, ngozi] = await openStage([]);
let billing: Awaited<ReturnType<typeof startBilling>>;
let clientId: string;
beforeAll(async () => {
  billing = await startBilling(stage.world);
  const t = await billing.ticketOf('Larkspur Seed Co-op');
  clientId = t.client_id;
  for (const [day, note] of [
    ['18', 'Switch replaced'],
    ['19', 'Cable traced'],
  ] as const)
    await billing.record(t.id, `2026-11-${day}T09:00:00Z`, { duration: '1h', note });
});
afterEach(() => expect(ngozi.troubles).toEqual([]));

const standings = () =>
  stage.world.knex('charge').where({ client_id: clientId }).whereNot({ standing: 'waived' }).orderBy('on_date').pluck('standing');
const numberOf = async (kind: string) =>
  (await stage.world.knex('invoice').where({ kind, client_id: clientId }).orderBy('sequence', 'desc').first('number')).number as string;

describe('a wrong invoice', () => {
  it('comes of charges that were approved at once, taken back at once, and approved again', async () => {
    await ngozi.enter('Ngozi Adeyemi-Clarke', '/charges');
    await ngozi.press('section.panel button', 'Approve all 2');
    await ngozi.sees('dl-toast-list', '2 approved');
    await ngozi.sees('dl-empty-note', 'Nothing to review');
    await ngozi.press('dl-toast-list button', 'Undo');
    await ngozi.sees('.charge', 'Switch replaced');
    expect(await standings()).toEqual(['proposed', 'proposed']);
    await ngozi.press('section.panel button', 'Approve all 2');
    await ngozi.press('[role=group] button', 'To bill');
    await ngozi.sees('.charge', 'Cable traced');
    await ngozi.press('.page-head a', 'Bill them');
    await ngozi.press('.fold', 'Larkspur Seed Co-op');
    await ngozi.sees('dl-draft-lines', 'Switch replaced');
    await ngozi.press('section.panel button', 'Issue');
    await ngozi.sees('.paper', 'Switch replaced');
    expect(await standings()).toEqual(['billed', 'billed']);
  });

  it('is paid by a cheque, more than it came to, and what is over stands as credit', async () => {
    await ngozi.press('.page-head button', 'Record a payment');
    expect(await ngozi.value('Amount')).toMatch(/^\d+\.\d\d$/);
    await ngozi.fill('Amount', '500');
    await ngozi.press('dl-record-payment button', 'Record it');
    await ngozi.sees('dl-record-payment .error', 'write something');
    await ngozi.fill('Reference', 'cheque 12');
    await ngozi.press('dl-record-payment button', 'Record it');
    await ngozi.sees('.page-head .tag', 'paid');
    await ngozi.sees('aside .settled', 'cheque 12');
    await ngozi.go('/billing?show=payments');
    await ngozi.sees('dl-credit-list tbody', 'cheque 12');
  });

  it('is credited by the line: wrong amounts are named, and the money is given back for good', async () => {
    await ngozi.go(`/billing/${await numberOf('invoice')}`);
    await ngozi.press('.page-head button', 'Credit it');
    await ngozi.press('dl-credit-form [type=checkbox]', 'Credit line 2');
    await ngozi.fill('Net amount of line 1', '9999');
    await ngozi.press('dl-credit-form button', 'Issue a credit note');
    await ngozi.sees('dl-credit-form [role=alert]', 'Line 1: "9999" does not go');
    await ngozi.fill('Net amount of line 1', '20');
    await ngozi.press('dl-credit-form label', 'Give the money back');
    await ngozi.press('dl-credit-form button', 'Issue a credit note over €20.00 net');
    await ngozi.sees('dl-credit-form .error', 'write something');
    await ngozi.fill('Why, as the client reads it', 'agreed by phone');
    await ngozi.press('dl-credit-form button', 'Issue a credit note over €20.00 net');
    await ngozi.sees('dl-toast-list', 'issued; it is on its way');
    await ngozi.sees('.paper', 'of it not credited');
    await ngozi.sees('aside', 'given back for good');
    expect(await standings()).toEqual(['billed', 'billed']);
    await ngozi.press('aside a', await numberOf('credit note'));
    await ngozi.sees('.page-head', 'credit note');
    await ngozi.sees('.paper', 'agreed by phone');
    await ngozi.sees('.paper', 'To their credit');
    await ngozi.sees('dl-story', 'booked in the ledger');
  });

  it('has the rest of its billing undone, and its charges are to review again', async () => {
    const [invoice] = await Promise.all([numberOf('invoice')]);
    await ngozi.go(`/billing/${invoice}`);
    await ngozi.press('.page-head button', 'Credit it');
    await ngozi.press('dl-credit-form label', 'Undo the billing');
    await ngozi.fill('Why, as the client reads it', 'wrong month');
    await ngozi.press('dl-credit-form button', 'Issue a credit note');
    await ngozi.sees('aside', 'billing undone');
    await ngozi.gone('.page-head', 'Credit it');
    // What was given back for good of the first stays billed; the second is free.
    expect(await standings()).toEqual(['part billed', 'proposed']);
    await ngozi.go('/charges');
    await ngozi.sees('.charge', 'Cable traced');
    await ngozi.sees('.charge', 'undid its billing');
  });

  it('leaves credit that settles the next invoice, and is taken back where it was the wrong one', async () => {
    const { gross } = await billing.clear(clientId);
    const next = await billing.billing.do('issueInvoice', { body: { clientId, chargeIds: null, grossMinor: gross.minor } });
    await ngozi.go('/billing?show=payments');
    await ngozi.press('dl-credit-list button', 'Settle an invoice');
    await ngozi.page.waitForFunction(() => document.querySelector<HTMLInputElement>('dl-use-credit input')?.value);
    await ngozi.fill('Amount', '12.50');
    await ngozi.press('dl-use-credit button', 'Settle it');
    await ngozi.sees('dl-toast-list', `€12.50 of ${next.number} settled`);
    await ngozi.go(`/billing/${next.number}`);
    await ngozi.sees('.page-head .tag', 'part paid');
    await ngozi.press('aside .settled button', 'take back');
    await ngozi.press('aside .back button', 'Take it back');
    await ngozi.sees('aside .back', 'write why');
    await ngozi.fill('Why is it taken back?', 'meant for another');
    await ngozi.press('aside .back button', 'Take it back');
    await ngozi.sees('.page-head .tag', 'open');
    await ngozi.sees('dl-story', 'meant for another');
  });
});
