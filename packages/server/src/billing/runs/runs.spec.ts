import type { RunReason } from '@core/billing';
import { runsBy } from '../../../testing/billing-runs';
import { lineForm } from '../../../testing/contract-forms';
import { ownClient, remoteOf, timeForm } from '../../../testing/own-client';
import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';
import { issueAsked } from './issue-asked';
import { prepareInvoices } from './prepare-run';

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
  // What the demo left to decide or to bill is no part of a spec; nor are its contracts.
  await world.knex('charge').whereIn('standing', ['proposed', 'approved']).update({ state: 'waived' });
  await world.knex('contract').update({ agreed_at: null });
  await world.knex('billing_run').update({ state: 'done' });
});
afterAll(() => world.stop());
afterEach(() => runs.endRun());

const run = (runId: string) => runs.run(runId);
const until = (runId: string, ...states: string[]) => runs.until(runId, ...states);
const prepare = (on: string) => runs.prepare(on);
const invoices = (runId: string) => runs.invoices(runId);
const issue = (runId: string, ids: string[] | null = null) => runs.issue(runId, ids);
const of = async (runId: string, clientId: string) => (await invoices(runId)).find((i) => i.clientId === clientId)!;
const words = (reasons: readonly RunReason[]) => reasons.map((r) => `${r.is} ${r.by.minor}`);

/** A client with a seat line from September, 30 each, of so many people. */
async function seated(people: number, startsOn = '2026-09-01') {
  const { clientId, ticketId } = await ownClient(world);
  const body = { clientId, name: 'Seats', startsOn, lastDay: null, preset: 'by the hour', grant: null, price: null } as const;
  const { id: contractId } = await hanna.do('createContract', { body });
  const line = lineForm({ name: 'Seats', price: '30', startsOn, counted: 'seat', leadDays: 0 });
  const { id: lineId } = await hanna.do('addLine', { params: { contractId }, body: line });
  const rows = Array.from({ length: people }, (_, n) => ({
    client_id: clientId,
    name: `Seat ${n}`,
    email: `${n}@${clientId}.example`,
    priority: false,
  }));
  const ids: string[] = people ? (await world.knex('contact').insert(rows).returning('id')).map((r: { id: string }) => r.id) : [];
  const params = { contractId, lineId };
  const join = (unitIds: readonly string[], from: string) =>
    hanna.do('addSeats', { params, body: { unitIds: [...unitIds], startsOn: from, lastDay: null } });
  if (people) await join(ids, startsOn);
  const { version } = await hanna.do('getContract', { params: { contractId } });
  await hanna.do('agreeContract', { params: { contractId }, version });
  const newcomer = async (from: string) => {
    const [{ id }] = await world
      .knex('contact')
      .insert({ client_id: clientId, name: 'New', email: `new@${clientId}.example`, priority: false })
      .returning('id');
    await join([id], from);
  };
  const worked = async (on: string, minutes: string) => {
    const { id: entryId } = await deepa.do('addEntry', {
      body: timeForm({ workId: ticketId, activityId: remote }, `${on}T10:00:00Z`, minutes),
    });
    const charge = await world.knex('charge').where({ time_entry_id: entryId }).first('id', 'version');
    return { entryId, chargeId: charge.id as string, version: charge.version as number };
  };
  return { clientId, contractId, newcomer, worked };
}

const decide = (chargeId: string, version: number, decision: string, more: object = {}) =>
  ngozi.do('decideCharge', {
    params: { chargeId },
    version,
    body: { decision, reason: 'as agreed', quantity: null, unitPrice: null, description: null, until: null, ...more } as never,
  });

describe('a billing run', () => {
  it('shows what is due beside the last invoices and why it differs, and issues all of it once', async () => {
    const { clientId, worked, newcomer, contractId } = await seated(2, '2026-11-01');
    const first = await prepare('2026-11-01');
    expect(await of(first, clientId)).toMatchObject({ state: 'proposed', net: { minor: 6000 }, last: null, kind: 'invoice', charges: 1 });
    expect((await issue(first)).status).toBe(200);
    expect(await until(first, 'done')).toMatchObject({ issued: 1, toIssue: { invoices: 0 } });
    const issued = await of(first, clientId);
    const invoice = await ngozi.do('getInvoice', { params: { invoiceId: issued.number! } });
    expect(invoice).toMatchObject({ id: issued.invoiceId, clientId, net: { minor: 6000 } });

    const { chargeId, version } = await worked('2026-11-16', '60');
    const other = await worked('2026-11-17', '60');
    await decide(chargeId, version, 'approve');
    await newcomer('2026-11-16');
    const second = await prepare('2026-12-01');
    const row = await of(second, clientId);
    // December of three seats, half of November for the third, and an hour of work.
    expect(row).toMatchObject({ charges: 3, last: { number: issued.number, net: { minor: 6000 } } });
    const { lines, undecided, gross, found } = await ngozi.do('getRunInvoice', { params: { runId: second, runInvoiceId: row.id } });
    const work = lines.find((l) => l.chargeId === chargeId)!.net.minor;
    expect(words(row.reasons)).toEqual([`work ${work}`, 'count 3000', 'true-up 1500']);
    expect(row.differs.minor).toBe(work + 4500);
    expect(undecided).toMatchObject({ charges: 1 });
    // The client's own contact is on no line; nobody of the others has a device or asked for anything.
    expect(found.map((f) => [f.state, f.count, f.monthly.minor])).toEqual([
      ['on no line', 1, 0],
      ['billed for nothing', 3, 9000],
    ]);
    expect((await run(second)).undecided.charges).toBe(1);
    expect(lines.map((l) => [l.kind, l.held])).toEqual([
      ['recurring', false],
      ['labour', false],
      ['recurring', false],
    ]);
    // What is decided on meanwhile is in it at once.
    await decide(other.chargeId, other.version, 'approve');
    expect((await of(second, clientId)).charges).toBe(4);
    await issue(second);
    await until(second, 'done');
    const both = (await of(second, clientId)).number!;
    expect((await ngozi.do('getInvoice', { params: { invoiceId: both } })).gross.minor).toBeGreaterThan(gross.minor);
    // A second run on the same facts bills nothing.
    expect(await of(await prepare('2026-12-01'), clientId)).toBeUndefined();
    expect(await world.knex('charge').where({ contract_id: contractId, cause: 'recurring' })).toHaveLength(3);
  });

  it('is one for two who prepare it at the same time; one of another day waits', async () => {
    const both = await Promise.all([1, 2].map(() => ngozi.do('prepareRun', { body: { on: '2026-12-01' } })));
    expect(both[0]).toEqual(both[1]);
    const other = await ngozi.ask('prepareRun', { body: { on: '2026-12-02' } });
    expect([other.status, detailOf(other)]).toEqual([409, expect.stringContaining('The run for 2026-12-01 is open')]);
    expect((await deepa.ask('prepareRun', { body: { on: '2026-12-01' } })).status).toBe(403);
    expect((await ngozi.ask('prepareRun', { body: { on: 'soon' } })).status).toBe(422);
  });

  it('says where it stopped while it was prepared, and can be ended there', async () => {
    const { contractId } = await seated(1, '2026-11-01');
    await world.knex.raw(
      `create function no_run() returns trigger language plpgsql as $$ begin raise exception 'not today'; end $$;
       create trigger no_run before insert on billing_run_invoice for each row execute function no_run();`,
    );
    const { id: runId } = await ngozi.do('prepareRun', { body: { on: '2026-11-01' } });
    await expect(prepareInvoices(world.running.app, { runId })).rejects.toThrow('not today');
    expect(await run(runId)).toMatchObject({ state: 'preparing', trouble: expect.stringContaining('It stopped at Brackwater Pilots') });
    // The queue tries again by itself: it is ended before it could go on.
    await ngozi.do('putRunAway', { params: { runId } });
    await world.knex.raw('drop trigger no_run on billing_run_invoice');
    expect((await run(runId)).state).toBe('done');
    await prepareInvoices(world.running.app, { runId });
    expect(await invoices(runId)).toEqual([]);
    await world.knex('contract').where({ id: contractId }).update({ agreed_at: null });
  });

  it('leaves a line, and a whole invoice, for the next run', async () => {
    const [one, two] = [await seated(1), await seated(1)];
    const runId = await prepare('2026-11-01');
    const [row, whole] = [await of(runId, one.clientId), await of(runId, two.clientId)];
    expect(row).toMatchObject({ charges: 3, net: { minor: 9000 } });
    const params = { runId, runInvoiceId: row.id };
    const { lines } = await ngozi.do('getRunInvoice', { params });
    const line = { ...params, chargeId: lines[0]!.chargeId };
    await ngozi.do('holdRunLine', { params: line });
    await ngozi.do('holdRunLine', { params: line });
    expect(await of(runId, one.clientId)).toMatchObject({ charges: 2, net: { minor: 6000 } });
    await ngozi.do('releaseRunLine', { params: line });
    expect(await of(runId, one.clientId)).toMatchObject({ charges: 3 });
    await ngozi.do('holdRunLine', { params: line });
    expect((await ngozi.ask('holdRunLine', { params: { ...line, runInvoiceId: whole.id } })).status).toBe(404);
    expect(await ngozi.do('holdRunInvoices', { params: { runId }, body: { ids: [whole.id] } })).toEqual({ changed: 1 });
    expect((await run(runId)).toIssue).toMatchObject({ invoices: 1, net: { minor: 6000 } });
    // Others than were seen are not issued.
    const unseen = await ngozi.ask('issueRun', { params: { runId }, body: { ids: null, invoices: 2, netMinor: 15_000 } });
    expect([unseen.status, detailOf(unseen)]).toEqual([412, expect.stringContaining('now 1 invoice over €60.00 before tax')]);
    await issue(runId);
    await until(runId, 'done');
    expect(await of(runId, two.clientId)).toMatchObject({ state: 'held', invoiceId: null });
    expect(detailOf(await ngozi.ask('releaseRunLine', { params: line }))).toContain('This run is done');
    const ended = { params: { runId }, body: { ids: [whole.id] } };
    expect(detailOf(await ngozi.ask('releaseRunInvoices', ended))).toContain('This run is done');
    expect(detailOf(await issue(runId))).toContain('This run is done');
    const next = await prepare('2026-11-01');
    expect([(await of(next, one.clientId)).charges, (await of(next, two.clientId)).charges]).toEqual([1, 3]);
    const held = await of(next, two.clientId);
    await ngozi.do('holdRunInvoices', { params: { runId: next }, body: { ids: [held.id] } });
    expect(await ngozi.do('releaseRunInvoices', { params: { runId: next }, body: { ids: [held.id] } })).toEqual({ changed: 1 });
  });

  it('follows what is waived, adjusted and put on a line, and bills no rest of what was adjusted', async () => {
    const { clientId, newcomer } = await seated(1, '2026-11-01');
    const runId = await prepare('2026-11-01');
    const row = await of(runId, clientId);
    const line = async () => (await ngozi.do('getRunInvoice', { params: { runId, runInvoiceId: row.id } })).lines[0]!;
    await newcomer('2026-11-01');
    expect(await of(runId, clientId)).toMatchObject({ net: { minor: 6000 } });
    await decide((await line()).chargeId, (await line()).version, 'adjust', { unitPrice: '20' });
    expect(await of(runId, clientId)).toMatchObject({ net: { minor: 4000 } });
    await issue(runId);
    await until(runId, 'done');
    expect(await of(await prepare('2026-11-01'), clientId)).toBeUndefined();
  });

  it('has what is put right as soon as somebody joins or leaves', async () => {
    const { clientId, newcomer } = await seated(2, '2026-11-01');
    const first = await prepare('2026-11-01');
    await issue(first);
    await until(first, 'done');
    const runId = await prepare('2026-12-01');
    expect((await of(runId, clientId)).reasons).toEqual([]);
    await newcomer('2026-11-16');
    expect(words((await of(runId, clientId)).reasons)).toEqual(['count 3000', 'true-up 1500']);
  });

  it('takes in what two decide on at the same time of a client that was not in it', async () => {
    const { clientId, contractId, worked } = await seated(0, '2026-11-01');
    await world.knex('contract').where({ id: contractId }).update({ agreed_at: null });
    const runId = await prepare('2026-12-01');
    expect(await of(runId, clientId)).toBeUndefined();
    const charges = [];
    for (const day of ['16', '17', '18', '19']) charges.push(await worked(`2026-11-${day}`, '60'));
    await Promise.all(charges.map(({ chargeId, version }) => decide(chargeId, version, 'approve')));
    expect(await of(runId, clientId)).toMatchObject({ charges: 4 });
  });

  it('leaves what was proposed by hand for later, and bills it as well', async () => {
    const { clientId, contractId } = await seated(1, '2026-11-01');
    const byHand = await hanna.do('proposeRecurring', { params: { contractId }, body: { on: '2026-12-01' } });
    expect(byHand).toMatchObject({ proposed: 2 });
    const runId = await prepare('2026-11-01');
    expect(await of(runId, clientId)).toMatchObject({ charges: 2, net: { minor: 6000 } });
    const again = await hanna.do('proposeRecurring', { params: { contractId }, body: { on: '2027-01-01' } });
    expect(again).toMatchObject({ proposed: 3 });
    expect(await of(runId, clientId)).toMatchObject({ charges: 3 });
  });

  it('shows again what comes to something else by the time it is issued', async () => {
    const { clientId, contractId } = await seated(1, '2026-11-01');
    const runId = await prepare('2026-11-01');
    const row = await of(runId, clientId);
    // Changed past the application, as by one who was quicker.
    await world.knex('billing_run_invoice').where({ id: row.id }).update({ net_minor: 2999 });
    await issue(runId);
    await until(runId, 'ready');
    expect(await of(runId, clientId)).toMatchObject({ state: 'changed', net: { minor: 3000 } });
    expect(await world.knex('invoice').where({ client_id: clientId })).toEqual([]);
    expect(await world.knex('charge').where({ contract_id: contractId }).pluck('state')).toEqual(['proposed']);
    await issue(runId, [row.id]);
    await until(runId, 'done');
    expect(await of(runId, clientId)).toMatchObject({ state: 'issued' });
  });

  it('says what could not be issued, and goes on with the others', async () => {
    const [one, two] = [await seated(1, '2026-11-01'), await seated(1, '2026-11-01')];
    const runId = await prepare('2026-11-01');
    await world.knex.raw(
      `create function no_invoice() returns trigger language plpgsql as $$ begin raise exception 'not today'; end $$;
       create trigger no_invoice before insert on invoice for each row when (new.client_id = '${one.clientId}') execute function no_invoice();`,
    );
    await issue(runId);
    await until(runId, 'ready');
    expect((await of(runId, one.clientId)).trouble).toContain('Nothing of it was stored');
    expect([(await of(runId, one.clientId)).state, (await of(runId, two.clientId)).state]).toEqual(['failed', 'issued']);
    expect(await world.knex('charge').where({ contract_id: one.contractId }).pluck('state')).toEqual(['proposed']);
    await world.knex.raw('drop trigger no_invoice on invoice');
    await issue(runId);
    await until(runId, 'done');
  });

  it('closes what is over and decided of its contracts, also where nothing is billed', async () => {
    const body = { name: 'Hours', startsOn: '2026-09-01', lastDay: null, preset: 'hours each month', grant: '5', price: '100' } as const;
    const { clientId, ticketId } = await ownClient(world);
    const { id: contractId } = await hanna.do('createContract', { body: { ...body, clientId } });
    const { version } = await hanna.do('getContract', { params: { contractId } });
    await hanna.do('agreeContract', { params: { contractId }, version });
    const work = (on: string, minutes: string) =>
      deepa.do('addEntry', { body: timeForm({ workId: ticketId, activityId: remote }, `${on}T10:00:00Z`, minutes) });
    await work('2026-09-07', '60');
    await work('2026-10-05', '360');
    const before = await prepare('2026-11-01');
    const detail = await ngozi.do('getRunInvoice', { params: { runId: before, runInvoiceId: (await of(before, clientId)).id } });
    expect(detail.closes).toMatchObject([{ contractId, name: 'Hours', lastDay: '2026-09-30', entries: 1, waiting: 1 }]);
    expect(detail.found).toEqual([]);
    await ngozi.do('putRunAway', { params: { runId: before } });
    const closedTo = async () => (await world.knex('contract_closing').where({ contract_id: contractId }).max('to_on as to').first())!.to;
    const runId = await prepare('2026-11-01');
    await issue(runId);
    await until(runId, 'done');
    // October is over, but what was more than its hours waits for a decision.
    expect(await closedTo()).toBe('2026-10-01');
    const waits = await world.knex('charge').where({ client_id: clientId, state: 'proposed' }).first('id', 'version');
    await decide(waits.id, waits.version, 'waive');
    const next = await prepare('2026-11-02');
    expect(await of(next, clientId)).toBeUndefined();
    const other = await seated(1, '2026-11-01');
    await ngozi.do('putRunAway', { params: { runId: next } });
    const last = await prepare('2026-11-02');
    await issue(last, [(await of(last, other.clientId)).id]);
    await until(last, 'done');
    expect(await closedTo()).toBe('2026-11-01');
  });

  it('bills each once where it is worked by two at the same time, and goes on where one ended', async () => {
    const clients = [await seated(1), await seated(1), await seated(1)];
    const { id: runId } = await ngozi.do('prepareRun', { body: { on: '2026-11-01' } });
    const { app } = world.running;
    await Promise.all([prepareInvoices(app, { runId }), prepareInvoices(app, { runId })]);
    await until(runId, 'ready');
    const rows = await Promise.all(clients.map((c) => of(runId, c.clientId)));
    expect(rows.map((r) => r.net.minor)).toEqual([9000, 9000, 9000]);
    await issue(runId);
    await Promise.all([issueAsked(app, { runId }), issueAsked(app, { runId })]);
    await until(runId, 'done');
    for (const { clientId } of clients) {
      expect(await world.knex('invoice').where({ client_id: clientId }).pluck('net_minor')).toEqual([9000]);
    }
    const gaps = await world.knex.raw(
      `select s.prefix from invoice i join invoice_series s on s.id = i.series_id group by s.id, s.prefix having max(sequence) - min(sequence) + 1 <> count(*)`,
    );
    expect(gaps.rows).toEqual([]);
  });
});
