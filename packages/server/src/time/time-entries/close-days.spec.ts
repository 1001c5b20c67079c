import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let deepa: Script;
beforeAll(async () => {
  world = await startWorld();
  deepa = await world.as('Deepa');
});
afterAll(() => world.stop());

const day = '2026-11-24';
const sheet = (of = day) => deepa.do('getDaySheet', { query: { day: of } });
async function entry(startsAt: string, duration = '20') {
  const activityId = (await deepa.do('getHouse')).activities[0]!.id;
  return { workId: null, startsAt, duration, activityId, note: 'Shelves', billable: true, reason: null };
}

describe('a day of mine', () => {
  it('says what is open and what lies over each other', async () => {
    const before = await sheet();
    const [gap] = before.open;
    await deepa.do('addEntry', { body: await entry(gap!.from, '20') });
    const after = await sheet();
    expect(after.openMinutes).toBe(before.openMinutes - 20);
    expect(after.overlaps).toEqual([]);
    await deepa.do('addEntry', { body: await entry(gap!.from, '5') });
    const over = (await sheet()).overlaps;
    expect(over).toEqual([{ from: gap!.from, to: new Date(Date.parse(gap!.from) + 300_000).toISOString().replace('.000', '') }]);
  });

  it('counts a minute here once, however often it is told, and keeps nothing but how many', async () => {
    const before = (await sheet()).hereMinutes;
    for (let n = 0; n < 3; n++) await deepa.do('beHere');
    expect((await sheet()).hereMinutes).toBe(before + 1);
    world.clock.forward(60);
    expect((await deepa.do('beHere')).minutes).toBe(before + 2);
    expect(Object.keys(await world.knex('minutes_here').first()).sort()).toEqual(['day', 'last_minute', 'minutes', 'person_id']);
  });

  it('takes no change once it is closed, until it is opened again', async () => {
    const [gap] = (await sheet()).open;
    const mine = (await sheet()).entries.at(-1)!;
    await deepa.do('closeDay', { body: { day } });
    expect((await sheet()).closedAt).not.toBeNull();
    const add = await deepa.ask('addEntry', { body: await entry(gap!.from, '5') });
    expect([add.status, detailOf(add)]).toEqual([409, `Your ${day} is closed. Open it again in My time first.`]);
    const at = { params: { entryId: mine.id }, version: mine.version };
    expect((await deepa.ask('removeEntry', at)).status).toBe(409);
    // Nor does an entry of another day come onto it.
    const other = await deepa.do('addEntry', { body: await entry('2026-11-23T08:00:00Z', '5') });
    const moved = await deepa.ask('editEntry', {
      params: { entryId: other.id },
      version: other.version,
      body: await entry(gap!.from, '5'),
    });
    expect(moved.status).toBe(409);
    await deepa.do('openDay', { body: { day } });
    await deepa.do('removeEntry', at);
    expect((await deepa.ask('closeDay', { body: { day: '2026-11-25' } })).status).toBe(422);
  });

  it('is closed with all before it when time is declared complete, and opens when that is taken back', async () => {
    await deepa.do('declareComplete', { body: { upTo: '2026-11-23' } });
    expect([(await sheet('2026-11-20')).closedAt, (await sheet()).closedAt]).toEqual([expect.any(String), null]);
    expect((await sheet()).completeUpTo).toBe('2026-11-23');
    expect((await deepa.ask('addEntry', { body: await entry('2026-11-20T09:00:00Z') })).status).toBe(409);
    const refused = await deepa.ask('openDay', { body: { day: '2026-11-20' } });
    expect([refused.status, detailOf(refused)]).toEqual([409, expect.stringContaining('complete up to 2026-11-23')]);
    expect((await deepa.ask('declareComplete', { body: { upTo: '2026-11-25' } })).status).toBe(422);
    await deepa.do('declareComplete', { body: { upTo: '2026-11-19' } });
    await deepa.do('addEntry', { body: await entry('2026-11-20T09:00:00Z') });
    await deepa.do('declareComplete', { body: { upTo: null } });
    expect((await sheet('2026-11-19')).closedAt).toBeNull();
  });
});
