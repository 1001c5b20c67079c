import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
const span = { from: '2026-11-09', to: '2026-11-22' };
const BY = ['technician', 'client', 'activity', 'time band'] as const;
beforeAll(async () => {
  world = await startWorld();
  aoife = await world.as('Aoife');
});
afterAll(() => world.stop());

const hours = (by: string, more: Record<string, string> = {}) => aoife.do('getTimeReport', { query: { ...span, by, ...more } });

describe('hours', () => {
  it('are the same in all, whatever they are gathered by, and each row opens into entries that add up to it', async () => {
    for (const by of BY) {
      const { rows, total } = await hours(by);
      expect(total.minutes).toBeGreaterThan(600);
      expect(rows.reduce((s, r) => s + r.minutes, 0)).toBe(total.minutes);
      expect(rows.reduce((s, r) => s + r.billableMinutes, 0)).toBe(total.billableMinutes);
      expect([total.minutes, total.billableMinutes]).toEqual([
        (await hours('client')).total.minutes,
        (await hours('client')).total.billableMinutes,
      ]);
      for (const row of rows.slice(0, 3)) {
        const { entries, count } = await aoife.do('listWorkedEntries', { query: { ...span, by, key: row.key } });
        expect(entries).toHaveLength(Math.min(count, 500));
        if (count > entries.length) continue;
        expect(entries.reduce((s, e) => s + e.minutes, 0)).toBe(row.minutes);
        expect(entries.filter((e) => e.billable).reduce((s, e) => s + e.minutes, 0)).toBe(row.billableMinutes);
      }
    }
  });

  it('stand against what was expected and against another span', async () => {
    const { rows, total } = await hours('technician', { thanFrom: '2026-11-09', thanTo: '2026-11-15' });
    const weeks = await Promise.all(['2026-11-09', '2026-11-16'].map((day) => aoife.do('getTeamWeek', { query: { day } })));
    for (const row of rows.filter((r) => r.expectedMinutes)) {
      const days = weeks.flatMap((w) => w.people.find((p) => p.id === row.key)!.days);
      expect(row.expectedMinutes).toBe(days.reduce((s, d) => s + d.expectedMinutes, 0));
    }
    const first = await aoife.do('getTimeReport', { query: { from: '2026-11-09', to: '2026-11-15', by: 'technician' } });
    expect(total.thanMinutes).toBe(first.total.minutes);
    expect((await hours('client')).total.expectedMinutes).toBeNull();
  });

  it('follow corrections of what was approved', async () => {
    const entry = await world
      .knex('time_entry')
      .where({ approval: 'approved' })
      .whereNotNull('client_id')
      .where('starts_at', '>=', '2026-11-10')
      .where('starts_at', '<', '2026-11-13')
      .where('minutes', '>', 20)
      .first();
    const before = await hours('client');
    await aoife.do('correctTime', { params: { entryId: entry.id }, body: { duration: '5', reason: 'was shorter' } });
    const after = await hours('client');
    expect(after.total.minutes).toBe(before.total.minutes - entry.minutes + 5);
    const { entries } = await aoife.do('listWorkedEntries', { query: { ...span, by: 'client', key: entry.client_id } });
    expect(entries.find((e) => e.id === entry.id)!.minutes).toBe(5);
  });

  it('refuse spans that end before they begin, are too long, or are half a comparison', async () => {
    for (const bad of [
      { to: '2026-11-01' },
      { from: '2020-01-01' },
      { thanFrom: '2026-11-01' },
      { thanFrom: '2026-11-09', thanTo: '2026-11-01' },
      { by: 'mood' },
    ]) {
      const { status } = await aoife.ask('getTimeReport', { query: { ...span, by: 'client', ...bad } as Record<string, string> });
      expect([bad, status]).toEqual([bad, 422]);
    }
  });
});
