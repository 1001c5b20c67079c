import { ownClient, remoteOf, timeForm } from '../../../testing/own-client';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let hanna: Script;
let deepa: Script;
let clientId: string;
let ticketId: string;
let remote: string;
beforeAll(async () => {
  world = await startWorld();
  hanna = await world.as('Hanna');
  deepa = await world.as('Deepa');
  remote = await remoteOf(deepa);
  ({ clientId, ticketId } = await ownClient(world));
});
afterAll(() => world.stop());

const record = (startsAt: string, duration: string) =>
  deepa.do('addEntry', { body: timeForm({ workId: ticketId, activityId: remote }, startsAt, duration) as never });
const told = () => world.knex('notice').where('text', 'like', '%Watched hours%').pluck('text');

describe('an allowance that is nearly used up', () => {
  it('is told to account managers at each level, once a period', async () => {
    const body = {
      clientId,
      name: 'Watched hours',
      startsOn: '2026-11-01',
      lastDay: null,
      preset: 'hours each month',
      grant: '2',
      price: '9',
    };
    const { id: contractId } = await hanna.do('createContract', { body: body as never });
    const { version, number } = await hanna.do('getContract', { params: { contractId } });
    await hanna.do('agreeContract', { params: { contractId }, version });
    await record('2026-11-16T09:00:00Z', '90');
    expect(await told()).toEqual([]);
    await record('2026-11-16T11:00:00Z', '15');
    expect(await told()).toEqual([`${number} Watched hours: 87 % of Hours is used, 15 min left`]);
    const leif = await world.knex('person').where('name', 'like', 'Leif%').first('id');
    expect(await world.knex('notice').where('text', 'like', '%Watched hours%').pluck('person_id')).toEqual([leif.id]);
    const { id } = await record('2026-11-16T12:00:00Z', '15');
    expect(await told()).toHaveLength(2);
    expect(await told()).toContain(`${number} Watched hours: 100 % of Hours is used, nothing is left`);
    const { version: seen } = await world.knex('time_entry').where({ id }).first('version');
    await deepa.do('removeEntry', { params: { entryId: id }, version: seen });
    await record('2026-11-16T13:00:00Z', '15');
    expect(await told()).toHaveLength(2);
  });

  it('is told at the levels that are set', async () => {
    const { version, order } = await hanna.do('getContractOrder');
    expect((await hanna.ask('setContractOrder', { version, body: { order, warnLevels: [101] } })).status).toBe(422);
    await hanna.do('setContractOrder', { version, body: { order, warnLevels: [90, 50] } });
    expect((await hanna.do('getContractOrder')).warnLevels).toEqual([50, 90]);
    await record('2026-11-16T14:00:00Z', '15');
    expect(await told()).toHaveLength(3);
  });
});
