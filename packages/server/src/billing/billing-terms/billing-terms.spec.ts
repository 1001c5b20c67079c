import type { ClientTermsForm, HouseTermsForm } from '@core/billing';
import { runsBy } from '../../../testing/billing-runs';
import { lineForm } from '../../../testing/contract-forms';
import { ownClient, remoteOf, timeForm } from '../../../testing/own-client';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let hanna: Script;
let ngozi: Script;
let deepa: Script;
let remote: string;
let runs: ReturnType<typeof runsBy>;
beforeAll(async () => {
  world = await startWorld();
  [hanna, ngozi, deepa] = [await world.as('Hanna'), await world.as('Ngozi'), await world.as('Deepa')];
  remote = await remoteOf(deepa);
  runs = runsBy(ngozi);
  // What the demo left to decide or to bill is no part of a spec; nor are its contracts and terms.
  await world.knex('charge').whereIn('standing', ['proposed', 'approved']).update({ state: 'waived' });
  await world.knex('contract').update({ agreed_at: null });
  await world.knex('billing_run').update({ state: 'done' });
  await world.knex('client_billing_terms').delete();
});
afterAll(() => world.stop());
afterEach(() => runs.endRun());

const prepare = (on: string) => runs.prepare(on);
const endRun = () => runs.endRun();
const until = (runId: string) => runs.until(runId, 'ready', 'done');
const invoicesOf = async (runId: string, clientId: string) => (await runs.invoices(runId)).filter((i) => i.clientId === clientId);
const issue = async (runId: string, clientId: string) => {
  const mine = (await invoicesOf(runId, clientId)).filter((i) => i.state === 'proposed');
  const asked = await runs.issue(
    runId,
    mine.map((i) => i.id),
  );
  expect(asked.status).toBe(200);
  await until(runId);
  return invoicesOf(runId, clientId);
};

const AS_HOUSE: ClientTermsForm = { every: null, weekday: null, day: null, month: null, per: null, leadDays: null };
const terms = async (clientId: string, form: Partial<ClientTermsForm>) => {
  const { version } = await ngozi.do('getClientTerms', { params: { clientId } });
  return ngozi.do('setClientTerms', { params: { clientId }, version, body: { ...AS_HOUSE, ...form } });
};
/** An hour of remote work on a day, approved. */
const worked = async (ticketId: string, on: string) => {
  const form = timeForm({ workId: ticketId, activityId: remote }, `${on}T10:00:00Z`, '60');
  const { id } = await deepa.do('addEntry', { body: form });
  await world.knex('charge').where({ time_entry_id: id }).update({ state: 'approved' });
};
/** An agreed contract with a flat line of a price. */
const contracted = async (clientId: string, { name = 'Care', price = '100', order = null as string | null } = {}) => {
  const body = { clientId, name, startsOn: '2026-09-01', lastDay: null, preset: 'by the hour', grant: null, price: null } as const;
  const { id: contractId } = await hanna.do('createContract', { body });
  await hanna.do('addLine', {
    params: { contractId },
    body: lineForm({ name: `${name} line`, price, startsOn: '2026-12-01', leadDays: null }),
  });
  const { version } = await hanna.do('getContract', { params: { contractId } });
  await hanna.do('agreeContract', { params: { contractId }, version });
  await world.knex('contract').where({ id: contractId }).update({ purchase_order: order });
  return contractId;
};

describe('when a client is billed', () => {
  it('is once for each of its billing days, with what comes late on the next', async () => {
    const { clientId, ticketId } = await ownClient(world);
    await terms(clientId, { every: 'month', day: 15 });
    await worked(ticketId, '2026-11-12');
    await worked(ticketId, '2026-11-20');
    const first = await prepare('2026-11-24');
    expect(await invoicesOf(first, clientId)).toMatchObject([{ charges: 1, billedAsOf: '2026-11-15' }]);
    expect(await issue(first, clientId)).toMatchObject([{ state: 'issued' }]);

    await worked(ticketId, '2026-11-13');
    await endRun();
    expect(await invoicesOf(await prepare('2026-12-14'), clientId)).toEqual([]);
    await endRun();
    expect(await invoicesOf(await prepare('2026-12-15'), clientId)).toMatchObject([{ charges: 2, billedAsOf: null }]);
  });

  it('keeps as of which day it was billed, though its days change afterwards', async () => {
    const { clientId, ticketId } = await ownClient(world);
    await terms(clientId, { every: 'month', day: 15 });
    await worked(ticketId, '2026-11-12');
    const other = await ownClient(world);
    await worked(other.ticketId, '2026-11-12');
    const first = await prepare('2026-11-24');
    await issue(first, clientId);
    // The run is open still, for the other.
    await terms(clientId, { every: 'month', day: 1 });
    await terms(clientId, { every: 'month', day: 15 });
    await endRun();
    await worked(ticketId, '2026-11-13');
    expect(await invoicesOf(await prepare('2026-11-25'), clientId)).toEqual([]);
  });

  it('brings what is paid in advance by the lead of the line, the client or the house', async () => {
    const { clientId } = await ownClient(world);
    const contractId = await contracted(clientId);
    const due = async (on: string) => {
      const found = await invoicesOf(await prepare(on), clientId);
      await endRun();
      await world.knex('charge').where({ client_id: clientId }).delete();
      return found.length;
    };
    expect([await due('2026-11-20'), await due('2026-11-21')]).toEqual([0, 1]);
    await terms(clientId, { leadDays: 20 });
    expect([await due('2026-11-10'), await due('2026-11-11')]).toEqual([0, 1]);
    // The line's own counts before both.
    const { id: lineId } = (await hanna.do('getContract', { params: { contractId } })).lines[0]!;
    await world.knex('contract_line').where({ id: lineId }).update({ lead_days: 3 });
    expect([await due('2026-11-27'), await due('2026-11-28')]).toEqual([0, 1]);
    expect((await hanna.do('getContract', { params: { contractId } })).lines[0]).toMatchObject({ leadDays: 3, leadsBy: 3 });
  });

  it('changes in the run that is open, which is worked out anew', async () => {
    const { clientId, ticketId } = await ownClient(world);
    await worked(ticketId, '2026-11-20');
    const runId = await prepare('2026-11-24');
    expect(await invoicesOf(runId, clientId)).toHaveLength(1);
    await terms(clientId, { every: 'week', weekday: 4 });
    expect(await invoicesOf(runId, clientId)).toEqual([]);

    const { version, clients: _, ...house } = await ngozi.do('getHouseTerms');
    await terms(clientId, {});
    const monthly: HouseTermsForm = { ...house, every: 'month', day: 1 };
    const set = await ngozi.do('setHouseTerms', { version, body: monthly });
    expect((await until(runId)).state).toBe('ready');
    expect(await invoicesOf(runId, clientId)).toEqual([]);
    // Back, there and back again before any of it is worked out: the last counts.
    const back = await ngozi.do('setHouseTerms', { version: set.version, body: house });
    const there = await ngozi.do('setHouseTerms', { version: back.version, body: monthly });
    await ngozi.do('setHouseTerms', { version: there.version, body: house });
    await until(runId);
    expect(await invoicesOf(runId, clientId)).toMatchObject([{ charges: 1 }]);
  });

  it('is refused where it makes no day, or somebody else changed it', async () => {
    const { clientId } = await ownClient(world);
    const ask = (body: Partial<ClientTermsForm>, version = 0) =>
      ngozi.ask('setClientTerms', { params: { clientId }, version, body: { ...AS_HOUSE, ...body } });
    expect(await ask({ every: 'year', month: 2, day: 30 })).toMatchObject({ status: 422 });
    expect(await ask({ every: 'week' })).toMatchObject({ status: 422 });
    expect(await ask({ every: 'month', day: 1 })).toMatchObject({ status: 200 });
    expect(await ask({ every: 'month', day: 2 })).toMatchObject({ status: 412 });
    const { holds, own } = await ngozi.do('getClientTerms', { params: { clientId } });
    expect([own.day, holds.billedAsOf, holds.nextDay]).toEqual([1, '2026-11-01', '2026-12-01']);
    expect((await deepa.ask('setClientTerms', { params: { clientId }, version: 1, body: AS_HOUSE })).status).toBe(403);
  });
});

describe('on how many invoices', () => {
  it('is one for each contract, and one for what belongs to none, each beside its own last', async () => {
    const { clientId, ticketId } = await ownClient(world);
    await terms(clientId, { per: 'contract', leadDays: 10 });
    // What was worked before there was a contract belongs to none.
    await worked(ticketId, '2026-11-20');
    await contracted(clientId, { name: 'Care', price: '100' });
    await contracted(clientId, { name: 'Cloud', price: '40' });
    const runId = await prepare('2026-11-24');
    const rows = await invoicesOf(runId, clientId);
    expect(new Map(rows.map((r) => [r.part.name, r.charges]))).toEqual(
      new Map([
        ['Care', 1],
        ['Cloud', 1],
        [null, 1],
      ]),
    );
    const issued = await issue(runId, clientId);
    expect(new Set(issued.map((i) => i.number)).size).toBe(3);
    const cloud = issued.find((i) => i.part.name === 'Cloud')!;
    expect(await ngozi.do('getInvoice', { params: { invoiceId: cloud.number! } })).toMatchObject({
      billedFor: 'Cloud',
      purchaseOrder: null,
      net: { minor: 4000 },
    });

    await endRun();
    const next = await invoicesOf(await prepare('2026-12-22'), clientId);
    expect(next.find((r) => r.part.name === 'Cloud')).toMatchObject({ last: { number: cloud.number }, reasons: [] });
  });

  it('is one for each purchase order, which its document names', async () => {
    const { clientId } = await ownClient(world);
    await terms(clientId, { per: 'purchase order', leadDays: 10 });
    await contracted(clientId, { name: 'Care', order: 'PO-7' });
    await contracted(clientId, { name: 'Cloud', order: 'PO-7' });
    await contracted(clientId, { name: 'Lines', order: 'PO-8' });
    const issued = await issue(await prepare('2026-11-24'), clientId);
    expect(issued.map((i) => [i.part.name, i.charges]).sort()).toEqual([
      ['PO-7', 2],
      ['PO-8', 1],
    ]);
    const invoiceId = issued.find((i) => i.part.name === 'PO-7')!.invoiceId!;
    expect(await ngozi.do('getInvoice', { params: { invoiceId } })).toMatchObject({ purchaseOrder: 'PO-7', billedFor: null });
    const { bytes } = await ngozi.ask('getInvoiceUbl', { params: { invoiceId } });
    expect(bytes.toString()).toMatch(/<cac:OrderReference>\s*<cbc:ID>PO-7</);
  });

  it('is one for each site: of whom the work was for, else of the one that its contract is for', async () => {
    const { clientId, ticketId } = await ownClient(world);
    await terms(clientId, { per: 'site', leadDays: 10 });
    const place = { street: '1 Way', city: 'Dublin', postcode: 'D1' };
    const sites = await world
      .knex('site')
      .insert(['North', 'South'].map((name) => ({ client_id: clientId, name, ...place })))
      .returning(['id', 'name']);
    const atSite = { client_id: clientId, site_id: sites[0].id, name: 'Noor', email: `noor@${clientId}.example` };
    const [contact] = await world.knex('contact').insert(atSite).returning('id');
    await world.knex('ticket').where({ id: ticketId }).update({ contact_id: contact.id });
    await worked(ticketId, '2026-11-20');
    const contractId = await contracted(clientId);
    await world.knex('contract_reach').insert({ contract_id: contractId, reach: 'site', of_what: sites[1].id });
    await contracted(clientId, { name: 'All' });
    const rows = await invoicesOf(await prepare('2026-11-24'), clientId);
    expect(new Set(rows.map((r) => r.part.name))).toEqual(new Set(['North', 'South', null]));
  });

  it('bills every charge once, however often the terms change while a run is open', async () => {
    const { clientId, ticketId } = await ownClient(world);
    await worked(ticketId, '2026-11-20');
    await contracted(clientId, { name: 'Care' });
    await contracted(clientId, { name: 'Cloud' });
    const runId = await prepare('2026-11-24');
    for (const per of ['contract', 'site', 'client', 'contract'] as const) {
      await terms(clientId, { per, leadDays: 10 });
      const rows = await invoicesOf(runId, clientId);
      expect(rows.reduce((sum, r) => sum + r.charges, 0)).toBe(3);
      expect(rows).toHaveLength(per === 'contract' ? 3 : 1);
    }
    await issue(runId, clientId);
    const charges = await world.knex('charge').where({ client_id: clientId }).select('standing');
    expect(charges.map((c: { standing: string }) => c.standing)).toEqual(['billed', 'billed', 'billed']);
  });
});
