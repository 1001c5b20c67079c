import { ownClient } from '../../../testing/own-client';
import { startWorld, type Script, type World } from '../../../testing/test-server';
import { renewContracts } from './renew-contracts';

let world: World;
let hanna: Script;
let clientId: string;
beforeAll(async () => {
  world = await startWorld();
  hanna = await world.as('Hanna');
  ({ clientId } = await ownClient(world));
});
afterAll(() => world.stop());

const drawUp = async (name: string, more: object) => {
  const body = { clientId, name, startsOn: '2025-12-01', lastDay: '2026-11-24', preset: 'by the hour', grant: null, price: null, ...more };
  const { id } = await hanna.do('createContract', { body: body as never });
  const { version } = await hanna.do('getContract', { params: { contractId: id } });
  await hanna.do('agreeContract', { params: { contractId: id }, version });
  return id;
};
const renew = async (contractId: string, renewal: string) => {
  const c = await hanna.do('getContract', { params: { contractId } });
  const { name, startsOn, lastDay, preferred, purchaseOrder, notes, frequency, anchored, overageFactor, termMonths } = c;
  const body = {
    name,
    startsOn,
    lastDay,
    preferred,
    purchaseOrder,
    notes,
    frequency,
    anchored,
    overageFactor,
    renewal,
    termMonths,
    noticeDays: 60,
  };
  await hanna.do('editContract', { params: { contractId }, version: c.version, body: body as never });
};
const told = () => world.knex('notice').where('text', 'like', '%notice can be given%').pluck('text');

describe('at the end of a contract', () => {
  it('it goes on by itself for its term, or ends, and either happens once', async () => {
    const goesOn = await drawUp('Goes on', {});
    await renew(goesOn, 'goes on');
    const ends = await drawUp('Ends', {});
    for (let n = 0; n < 2; n++) await renewContracts(world.running.app);
    const after = await hanna.do('getContract', { params: { contractId: goesOn } });
    expect(after).toMatchObject({ state: 'running', lastDay: '2027-11-24' });
    expect(after.story.filter((s) => s.what.startsWith('went on by itself'))).toHaveLength(1);
    expect(await hanna.do('getContract', { params: { contractId: ends } })).toMatchObject({ lastDay: '2026-11-24' });
  });

  it('account managers are told once before notice can be given no more', async () => {
    const id = await drawUp('Told of', { lastDay: '2027-01-20' });
    const { number } = await hanna.do('getContract', { params: { contractId: id } });
    for (let n = 0; n < 2; n++) await renewContracts(world.running.app);
    expect(await told()).toContain(`${number} Told of ends on 2027-01-20; notice can be given until 2026-12-21. Then it ends.`);
    expect((await told()).filter((t) => t.includes('Told of'))).toHaveLength(1);
  });
});
