import type { Id } from '@core/ground';
import { startBilling } from '../../../testing/billing';
import { startWorld, type World } from '../../../testing/test-server';
import { watchTab } from './watch-tabs';

let world: World;
let stage: Awaited<ReturnType<typeof startBilling>>;
let ticket: { id: Id<'ticket'>; client_id: Id<'client'> };
beforeAll(async () => {
  world = await startWorld();
  stage = await startBilling(world);
  ticket = await stage.ticketOf('Brackwater Ferries');
});
afterAll(() => world.stop());

const tab = async () => (await stage.billing.do('listOpenTabs')).tabs.find((t) => t.clientId === ticket.client_id);
const level = (amount: string | null) =>
  stage.billing.ask('setTabLevel', { params: { clientId: ticket.client_id }, body: { level: amount } });
const watch = () => watchTab(world.running.app, { clientId: ticket.client_id });
const told = () => world.knex('notice').where('text', 'like', 'The open tab of Brackwater Ferries%').pluck('text');
const ofEntry = (id: string) => stage.chargeOf(id);

describe('the open tab of a client', () => {
  it('is what is charged and on no invoice: to review, to bill, and without what is held', async () => {
    expect(await tab()).toBeUndefined();
    const first = await ofEntry((await stage.record(ticket.id, '2026-11-23T09:00:00Z', { duration: '60' })).id);
    const second = await ofEntry((await stage.record(ticket.id, '2026-11-23T11:00:00Z', { duration: '30' })).id);
    await stage.decide(second.id, { decision: 'approve' });
    expect(await tab()).toMatchObject({
      charges: 2,
      toReview: first.net,
      cleared: second.net,
      sum: { minor: first.net.minor + second.net.minor },
    });
    await stage.decide(first.id, { decision: 'hold', reason: 'later', until: '2026-12-24' });
    expect(await tab()).toMatchObject({ charges: 1, toReview: { minor: 0 }, sum: second.net, held: first.net });
    await stage.decide(first.id, { decision: 'give back' });
    const { sum, tabs } = await stage.billing.do('listOpenTabs');
    expect(sum.minor).toBe(tabs.reduce((all, t) => all + t.sum.minor, 0));
    const draft = await stage.clear(ticket.client_id);
    expect(draft.net).toEqual((await tab())!.sum);
  });

  it('tells whoever set its level, once each time that it is reached', async () => {
    const sum = (await tab())!.sum.minor;
    expect((await level((sum / 100 + 50).toFixed(2))).status).toBe(200);
    await watch();
    expect([await told(), (await tab())!.isReached]).toEqual([[], false]);
    await stage.record(ticket.id, '2026-11-23T13:00:00Z', { duration: '120' });
    await Promise.all([watch(), watch()]);
    expect(await told()).toEqual([expect.stringMatching(/^The open tab of Brackwater Ferries has reached €.*: it is €.* before tax$/)]);
    expect((await tab())!.isReached).toBe(true);
    await stage.record(ticket.id, '2026-11-23T16:00:00Z', { duration: '15' });
    await watch();
    expect(await told()).toHaveLength(1);
    // Billed, the tab begins anew; reached once more, it tells once more.
    const draft = await stage.clear(ticket.client_id);
    await stage.billing.do('issueInvoice', { body: { clientId: ticket.client_id, chargeIds: null, grossMinor: draft.gross.minor } });
    await watch();
    expect(await tab()).toBeUndefined();
    await stage.record(ticket.id, '2026-11-24T08:00:00Z', { duration: '300' });
    await watch();
    expect(await told()).toHaveLength(2);
  });

  it('is looked at by itself when charges change', async () => {
    await level('1.00');
    const jobs = async () =>
      Number((await world.knex('graphile_worker.jobs').where({ task_identifier: 'watch-tab' }).count('* as n').first())!.n);
    const reached = async () => (await tab())!.isReached;
    for (let tries = 0; tries < 200 && !(await reached()); tries++) await new Promise((go) => setTimeout(go, 50));
    expect([await reached(), await jobs()]).toEqual([true, 0]);
  });

  it('takes no wrong level, and none of who may not decide', async () => {
    expect((await level('0')).status).toBe(422);
    expect((await level('-5')).status).toBe(422);
    expect((await level('1.005')).status).toBe(422);
    const by = await stage.technician.ask('setTabLevel', { params: { clientId: ticket.client_id }, body: { level: '5' } });
    expect(by.status).toBe(403);
    expect((await level(null)).status).toBe(200);
    expect((await tab())!.level).toBeNull();
  });
});
