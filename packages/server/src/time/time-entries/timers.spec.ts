import fc from 'fast-check';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let sora: Script;
let deepa: Script;
let activityId: string;
let tickets: string[];
beforeAll(async () => {
  world = await startWorld();
  [sora, deepa] = [await world.as('Sora'), await world.as('Deepa')];
  activityId = (await sora.do('getHouse')).activities[0]!.id;
  tickets = await world
    .knex('ticket')
    .where({ status: 'queued', kind: 'incident' })
    .whereNull('umbrella_id')
    .orderBy('number')
    .limit(4)
    .pluck('id');
});
afterAll(() => world.stop());

const timers = async () => (await sora.do('listTimers')).timers;
const clear = async () => {
  for (const { id } of await timers()) await sora.do('discardTimer', { params: { timerId: id } });
};
const entry = (workId: string, more: object = {}) => ({
  workId,
  startsAt: '2026-11-24T08:00:00Z',
  duration: '25',
  activityId,
  note: null,
  billable: true,
  reason: null,
  ...more,
});

describe('timers', () => {
  afterEach(clear);

  it('start one after the other where somebody starts twenty at once', async () => {
    const all = await world.knex('ticket').where({ status: 'queued' }).whereNull('umbrella_id').orderBy('number').limit(20).pluck('id');
    const answers = await Promise.all(all.map((workId: string) => sora.ask('startTimer', { body: { workId } })));
    expect(answers.map((a) => a.status)).toEqual(all.map(() => 200));
    expect((await timers()).filter((t) => t.runningSince)).toHaveLength(1);
  });

  it('never lose a second, whatever is started, paused and moved, and only one runs', async () => {
    const step = fc.record({
      does: fc.constantFrom('start', 'pause', 'move'),
      on: fc.nat(3),
      to: fc.nat(3),
      after: fc.integer({ min: 1, max: 5000 }),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 10 }), async (steps) => {
        await clear();
        let counted = 0;
        let runs = false;
        for (const { does, on, to, after } of steps) {
          const all = await timers();
          const timer = all.find((t) => t.workId === tickets[on]);
          if (does === 'start') {
            await sora.do('startTimer', { body: { workId: tickets[on]! } });
            runs = true;
          } else if (timer && does === 'pause') {
            await sora.do('pauseTimer', { params: { timerId: timer.id } });
            if (timer.runningSince) runs = false;
          } else if (timer) await sora.do('moveTimer', { params: { timerId: timer.id }, body: { workId: tickets[to]! } });
          world.clock.forward(after);
          if (runs) counted += after;
          const now = await timers();
          expect(now.reduce((sum, t) => sum + t.seconds, 0)).toBe(counted);
          expect(now.filter((t) => t.runningSince).length).toBe(runs ? 1 : 0);
          expect(new Set(now.map((t) => t.workId)).size).toBe(now.length);
        }
      }),
      { numRuns: 15 },
    );
  }, 60_000);

  it('end with the time that is recorded of them, and stay where that is refused', async () => {
    await sora.do('startTimer', { body: { workId: tickets[0]! } });
    const [timer] = await timers();
    const refused = await sora.ask('addEntry', { body: entry(tickets[0]!, { timerId: timer!.id, startsAt: '2027-01-01T08:00:00Z' }) });
    expect(refused.status).toBe(422);
    expect((await timers()).map((t) => t.id)).toEqual([timer!.id]);
    await sora.do('addEntry', { body: entry(tickets[0]!, { timerId: timer!.id }) });
    expect(await timers()).toEqual([]);
  });

  it('are of their own person alone', async () => {
    await sora.do('startTimer', { body: { workId: tickets[1]! } });
    const [timer] = await timers();
    for (const [name, body] of [
      ['pauseTimer', undefined],
      ['discardTimer', undefined],
      ['moveTimer', { workId: tickets[2] }],
    ] as const)
      // prettier-ignore
      expect((await deepa.ask(name, { params: { timerId: timer!.id }, body })).status).toBe(404);
    await deepa.do('addEntry', { body: entry(tickets[1]!, { timerId: timer!.id }) });
    expect((await timers()).map((t) => t.id)).toEqual([timer!.id]);
    expect((await deepa.do('listTimers')).timers).toEqual([]);
  });
});
