import { startWorld, type World } from '../../../testing/test-server';

let world: World;
beforeAll(async () => {
  world = await startWorld();
});
afterAll(() => world.stop());

describe('a week of the team', () => {
  it('has for everybody what their own day sheets have, and who is complete', async () => {
    const [aoife, deepa] = [await world.as('Aoife'), await world.as('Deepa')];
    const deepas = async () => (await aoife.do('getTeamWeek')).people.find((p) => p.name.startsWith('Deepa'))!;
    const mine = await deepas();
    for (const d of mine.days) {
      const own = await deepa.do('getDaySheet', { query: { day: d.day } });
      expect([d.expectedMinutes, d.recordedMinutes, d.closed]).toEqual([own.expectedMinutes, own.recordedMinutes, own.closedAt !== null]);
    }
    expect([mine.complete, mine.completeUpTo]).toEqual([false, null]);
    await deepa.do('declareComplete', { body: { upTo: '2026-11-23' } });
    expect(await deepas()).toMatchObject({ complete: true, completeUpTo: '2026-11-23' });
    expect((await deepa.ask('getTeamWeek')).status).toBe(403);
  });
});
