import type { AnswerOf } from '@core/ground';
import type { ApiRoutes } from '@core/api';
import { makeUpProblem } from '../../../../core/src/scheduling/planning/made-up-problems';
import { DemoRandom } from '../../app/demo/demo-random';
import { detailOf, startWorld, until, type Script, type World } from '../../../testing/test-server';

let world: World;
let tomasz: Script;
beforeAll(async () => {
  world = await startWorld();
  tomasz = await world.as('Tomasz');
});
afterAll(() => world.stop());

type Plan = AnswerOf<ApiRoutes['getPlan']>;
async function made(body: object): Promise<Plan> {
  const { id } = await tomasz.do('askForPlan', { body: { day: '2026-11-24', ...body } });
  let plan: Plan | undefined;
  await until('it is there', async () =>
    ['ready', 'failed'].includes((plan = await tomasz.do('getPlan', { params: { planId: id } })).state),
  );
  expect(plan!.state).toBe('ready');
  return plan!;
}
const standing = () => world.knex('booking').whereIn('state', ['planned', 'underway']).orderBy('id').select('id', 'person_id', 'starts_at');

describe('a plan', () => {
  it('changes nothing until it is accepted, costs no more than what is there, and is accepted in part with what must go along', async () => {
    const before = await standing();
    const plan = await made({});
    expect(await standing()).toEqual(before);
    expect(plan.cost!).toBeLessThanOrEqual(plan.costNow!);
    expect(plan.changes.length).toBeGreaterThan(3);
    const first = plan.changes.find((c) => c.how === 'book' && !c.needs.length)!;
    const { made: count } = await tomasz.do('acceptPlan', { params: { planId: plan.id }, body: { pieceIds: [first.pieceId] } });
    expect(count).toBe(1);
    const booked = await world.knex('booking').where({ ticket_id: first.workId, state: 'planned' }).first();
    expect([booked.person_id, booked.starts_at]).toEqual([first.personId, Date.parse(first.startsAt) / 1000]);
    const again = await tomasz.ask('acceptPlan', { params: { planId: plan.id }, body: { pieceIds: [first.pieceId] } });
    expect([again.status, detailOf(again)]).toEqual([409, expect.stringContaining('accepted already')]);
  });

  it('stops when it is asked to, with the best so far', async () => {
    const random = new DemoRandom(7);
    const size = { technicians: 20, work: 200, booked: 0.3, places: 20, longest: 90 };
    const { travel, ...problem } = makeUpProblem(size, () => random.next());
    const places = Array.from({ length: size.places }, (_, n) => String(n));
    const minutes = Object.fromEntries(places.flatMap((a) => places.map((b) => [`${a} ${b}`, travel(a, b)])));
    const stop = new SharedArrayBuffer(4);
    const costs: number[] = [];
    const sent = await world.running.app.plans.make(
      { ...problem, minutes },
      {
        rounds: 1_000_000_000,
        most: 600_000,
        stop,
        on: ({ cost }) => {
          costs.push(cost);
          Atomics.store(new Int32Array(stop), 0, 1);
        },
      },
    );
    expect(costs.length).toBeGreaterThan(0);
    expect(sent.cost).toBeLessThanOrEqual(costs[0]! + 0.001);
  });

  it('is refused as a whole where a booking of it changed meanwhile', async () => {
    const plan = await made({});
    const taken = plan.changes.find((c) => c.how === 'book')!;
    await tomasz.do('book', { body: { workId: taken.workId, personId: null, startsAt: '2026-11-25T09:00:00Z', minutes: 30 } });
    const before = await standing();
    const refused = await tomasz.ask('acceptPlan', { params: { planId: plan.id }, body: { pieceIds: plan.changes.map((c) => c.pieceId) } });
    expect([refused.status, detailOf(refused)]).toEqual([412, expect.stringContaining('Nothing was changed')]);
    expect(await standing()).toEqual(before);
  });

  it('repairs a day after somebody calls in sick by handing over just what is theirs', async () => {
    const aoife = await world.as('Aoife');
    const sick = await world.knex('person').where('name', 'like', 'Piotr%').first('id');
    const theirs = (await world
      .knex('booking')
      .where({ person_id: sick.id, state: 'planned' })
      .where('starts_at', '>=', '2026-11-24T10:45:00Z')
      .where('starts_at', '<', '2026-11-25T00:00:00Z')
      .pluck('id')) as string[];
    expect(theirs.length).toBeGreaterThan(0);
    const body = { startsAt: '2026-11-24T10:40:00Z', endsAt: '2026-11-25T00:00:00Z', reason: 'sick' };
    await aoife.do('addTimeOff', { params: { personId: sick.id }, body });
    const plan = await made({ onlyRepair: true });
    const handed = plan.changes.filter((c) => c.wasPerson?.startsWith('Piotr'));
    expect(handed.map((c) => c.bookingId).sort()).toEqual([...theirs].sort());
    expect(handed.every((c) => c.how === 'hand over' && c.personId !== sick.id)).toBe(true);
    await tomasz.do('acceptPlan', { params: { planId: plan.id }, body: { pieceIds: handed.map((c) => c.pieceId) } });
    const left = await world.knex('booking').whereIn('id', theirs).where({ person_id: sick.id });
    expect(left).toEqual([]);
  });

  it('names what is asked wrongly', async () => {
    const bad = await tomasz.ask('askForPlan', { body: { day: 'tomorrow', days: 9 } });
    expect([bad.status, Object.keys((bad.body as { fields: object }).fields).sort()]).toEqual([422, ['day', 'days']]);
    expect((await (await world.as('Deepa')).ask('askForPlan', { body: { day: '2026-11-24' } })).status).toBe(403);
  });
});
