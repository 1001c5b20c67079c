import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
beforeAll(async () => {
  world = await startWorld();
  aoife = await world.as('Aoife');
});
afterAll(() => world.stop());

const resolution = async (ticketId: string) =>
  (await aoife.do('getTicket', { params: { ticketId } })).clocks.find((c) => c.clock === 'resolution')!;
const someOf = (status: string) =>
  world
    .knex('ticket as t')
    .join('client as c', 'c.id', 't.client_id')
    .join('ticket_clock as k', 'k.ticket_id', 't.id')
    .where({ 't.status': status, 'k.clock': 'resolution' })
    .whereNull('c.calendar_id')
    .whereNull('t.umbrella_id')
    .orderBy('t.number', 'desc')
    .select('t.id', 't.client_id');

describe("a client's promise", () => {
  it('counts on their calendar from now on: what was counted stays, and what has ended never changes', async () => {
    const [running, ended] = [await someOf('queued'), await someOf('closed')];
    const open = running.find((r) => ended.some((e) => e.client_id === r.client_id))!;
    const over = ended.find((e) => e.client_id === open.client_id)!;
    const made = await aoife.do('addCalendar', {
      body: { name: 'Nights', zone: 'Europe/Dublin', week: ['', '', '00:00-04:00', '00:00-04:00', '00:00-04:00', '', ''], dates: [] },
    });
    const promise = await aoife.do('createPromise', {
      body: {
        name: 'On their hours',
        applyToOpen: false,
        targets: {
          ...(await aoife.do('listPromises')).promises.find((p) => p.isHouseDefault)!.targets,
          resolution: Object.fromEntries(['P1', 'P2', 'P3', 'P4'].map((p) => [p, { minutes: 6000, on: 'client' }])) as never,
        },
      },
    });
    const promiseId = (await aoife.do('listPromises')).promises.find((p) => p.name === 'On their hours')!.id;
    const client = await aoife.do('getClient', { params: { clientId: open.client_id } });
    const [before, beforeOver] = [await resolution(open.id), await resolution(over.id)];
    const body = { promiseId, calendarId: made.id, applyToOpen: true };
    await aoife.do('setPromise', { params: { clientId: client.id }, version: client.version, body });
    const [after, afterOver] = [await resolution(open.id), await resolution(over.id)];
    expect([after.elapsed, afterOver, promise.version]).toEqual([before.elapsed, beforeOver, 1]);
    expect(after.dueAt).not.toBe(before.dueAt);
    // At noon nothing counts on their calendar; a night later four hours do.
    world.clock.forward(3600);
    expect((await resolution(open.id)).elapsed).toBe(before.elapsed);
    world.clock.forward(86_400);
    expect((await resolution(open.id)).elapsed).toBe(before.elapsed + 4 * 3600);
    const now = await aoife.do('getClient', { params: { clientId: client.id } });
    expect([
      now.promise,
      now.calendar,
      now.story[0]!.what.includes('open tickets too') || now.story.at(-1)!.what.includes('open tickets too'),
    ]).toEqual(['On their hours', 'Nights', true]);
  });

  it('is refused with what there is not, by those who may not, and over what somebody else set', async () => {
    const client = (await aoife.do('listClients')).rows[0]!;
    const body = { promiseId: client.id, calendarId: null, applyToOpen: false };
    const { version } = await aoife.do('getClient', { params: { clientId: client.id } });
    const ask = (by: Script, seen: number, more: object = {}) =>
      by.ask('setPromise', { params: { clientId: client.id }, version: seen, body: { ...body, ...more } });
    expect(detailOf(await ask(aoife, version))).toBe('There is no such promise.');
    expect((await ask(await world.as('Deepa'), version, { promiseId: null })).status).toBe(403);
    expect((await ask(aoife, version + 5, { promiseId: null })).status).toBe(412);
  });
});
