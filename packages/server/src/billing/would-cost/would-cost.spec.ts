import { ownClient, remoteOf, timeForm } from '../../../testing/own-client';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let hanna: Script;
let clientId: string;
beforeAll(async () => {
  world = await startWorld();
  hanna = await world.as('Hanna');
  let ticketId: string;
  ({ clientId, ticketId } = await ownClient(world));
  for (const [who, startsAt, duration] of WORKED) {
    const person = await world.as(who);
    const of = { workId: ticketId, activityId: await remoteOf(person) };
    await person.do('addEntry', { body: timeForm(of, startsAt, duration) as never });
  }
});
afterAll(() => world.stop());

const WORKED = [
  ['Deepa', '2026-09-07T09:00:00Z', '60'],
  ['Deepa', '2026-10-05T09:00:00Z', '90'],
  ['Deepa', '2026-10-12T09:00:00Z', '20'],
  ['Sora', '2026-10-13T20:00:00Z', '45'],
  ['Deepa', '2026-11-02T09:00:00Z', '45'],
] as const;

const draft = async (preset: string, figures: { grant?: string; price?: string }) => {
  const body = { clientId, name: preset, startsOn: '2027-01-01', lastDay: null, preset, grant: null, price: null, ...figures };
  return (await hanna.do('createContract', { body: body as never })).id;
};
const trialOf = async (contractIds: readonly string[]) => {
  const { id } = await hanna.do('startCostTrial', { params: { clientId }, body: { contractIds: [...contractIds] as never } });
  return ready(id);
};
const ready = async (trialId: string) => {
  for (;;) {
    const trial = await hanna.do('getCostTrial', { params: { trialId } });
    if (trial.state === 'ready' || trial.state === 'failed') return trial;
    await new Promise((later) => setTimeout(later, 50));
  }
};

describe('what it would cost', () => {
  it('is worked out of the last twelve months under drafts side by side, by the hour beside them', async () => {
    const all = await draft('everything covered', { price: '500' });
    const hours = await draft('hours each month', { grant: '1', price: '80' });
    const trial = await trialOf([all, hours]);
    expect(trial).toMatchObject({ state: 'ready', percent: 100, from: '2025-11-01', to: '2026-11-01', trouble: null });
    const [byTheHour, covered, some] = trial.offers as [
      (typeof trial.offers)[number],
      (typeof trial.offers)[number],
      (typeof trial.offers)[number],
    ];
    expect(covered.months.map((m) => [m.recurring.minor, m.work.minor])).toEqual(Array(12).fill([50_000, 0]));
    expect(some.months.every((m) => m.recurring.minor === 8000 && m.coveredMinutes <= 60)).toBe(true);
    // What each month did by the hour is what was charged for it: nobody has covered it.
    const charged = new Map(trial.charged.map((c) => [c.month, c.net.minor]));
    for (const m of byTheHour.months) expect([m.month, m.work.minor]).toEqual([m.month, charged.get(m.month) ?? 0]);
    expect(byTheHour.total.minor).toBeGreaterThan(0);
  });

  it('knows what the time cost by person and date, for those alone who may see it', async () => {
    await world.knex('cost_rate').delete();
    const person = await world.knex('time_entry').where({ client_id: clientId }).orderBy('starts_at').first('person_id');
    await hanna.do('setCostRate', { params: { personId: person.person_id }, body: { from: '2026-01-01', rate: '30' } });
    await hanna.do('setCostRate', { params: { personId: person.person_id }, body: { from: '2026-10-01', rate: '40' } });
    const { costs } = await trialOf([await draft('everything covered', { price: '1' })]);
    const { rows } = await world.knex.raw<{ rows: { month: string; minor: number; without: number }[] }>(
      `select date_trunc('month', starts_at at time zone 'Europe/Dublin')::date::text as month,
         coalesce(sum(round(minutes * (case when starts_at at time zone 'Europe/Dublin' < '2026-10-01' then 3000 else 4000 end) / 60.0)) filter (where person_id = ?), 0)::int as minor,
         coalesce(sum(minutes) filter (where person_id <> ?), 0)::int as without
       from time_entry where client_id = ? and removed_at is null and corrects is null and starts_at at time zone 'Europe/Dublin' < '2026-11-01' group by 1 order by 1`,
      [person.person_id, person.person_id, clientId],
    );
    expect(costs!.map((c) => ({ month: c.month, minor: c.cost.minor, without: c.withoutRate }))).toEqual(rows);
    expect((await hanna.do('listCostRates')).people.find((p) => p.personId === person.person_id)!.rates).toHaveLength(2);
    const sora = await world.as('Sora');
    expect((await sora.ask('listCostRates')).status).toBe(403);
  });

  it('has the call-outs of visits by the hour, also where a contract that runs covers them', async () => {
    const own = await ownClient(world);
    const running = {
      clientId: own.clientId,
      name: 'Runs',
      startsOn: '2026-01-01',
      lastDay: null,
      preset: 'everything covered',
      grant: null,
      price: '1',
    };
    const { id } = await hanna.do('createContract', { body: running as never });
    const { version } = await hanna.do('getContract', { params: { contractId: id } });
    await hanna.do('agreeContract', { params: { contractId: id }, version });
    const deepa = await world.as('Deepa');
    const { activities } = await deepa.do('getHouse');
    const activityId = activities.find((a) => a.name === 'on site')!.id;
    const form = timeForm({ workId: own.ticketId, activityId }, '2026-10-06T09:00:00Z', '60');
    await deepa.do('addEntry', { body: form as never });
    expect(await world.knex('charge').where({ client_id: own.clientId })).toEqual([]);
    const started = await hanna.do('startCostTrial', { params: { clientId: own.clientId }, body: { contractIds: [id] as never } });
    const { offers } = await ready(started.id);
    const [fee] = await world.knex('activity').where({ id: activityId }).pluck('call_out_fee');
    const october = offers.map((o) => o.months.find((m) => m.month === '2026-10-01')!.work.minor);
    expect(october[1]).toBe(0);
    expect(october[0]).toBeGreaterThan(Number(fee) * 100);
  });

  it('is refused for contracts of others', async () => {
    const other = await world.knex('contract').whereNot({ client_id: clientId }).first('id');
    const refused = await hanna.ask('startCostTrial', { params: { clientId }, body: { contractIds: [other.id] } });
    expect(refused.body).toMatchObject({ status: 422, fields: { contractIds: 'contracts of the client' } });
  });
});
