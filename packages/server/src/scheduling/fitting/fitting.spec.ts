import { learn } from '../estimates/learn';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let tomasz: Script;
beforeAll(async () => {
  world = await startWorld();
  tomasz = await world.as('Tomasz');
});
afterAll(() => world.stop());

describe('what fits', () => {
  it('lists work that fits a gap with its ways, skills kept, the best first, each with why; taking the first fills the gap', async () => {
    const lane = (await tomasz.do('getDispatch')).lanes.find((l) => l.name.startsWith('Hanna'))!;
    const gap = lane.days[0]!.gaps[0]!;
    const query = { personId: lane.personId!, ...gap };
    const { fits } = await tomasz.do('listGapFits', { query });
    expect(fits.length).toBeGreaterThan(2);
    expect(fits.map((f) => f.points)).toEqual([...fits.map((f) => f.points)].sort((a, b) => b - a));
    const skills = new Map(lane.skills.map((s) => [s.skillId, s.level]));
    const all = (await tomasz.do('listUnbooked', { query: {} })).work;
    for (const f of fits) {
      expect(Date.parse(f.startsAt) - f.travelBefore * 60_000).toBeGreaterThanOrEqual(Date.parse(gap.from));
      expect(Date.parse(f.endsAt) + f.travelAfter * 60_000).toBeLessThanOrEqual(Date.parse(gap.to));
      const skill = all.find((w) => w.workId === f.workId)!.skill;
      expect(!skill || skills.has(skill.id)).toBe(true);
      expect(f.why.length).toBeGreaterThan(4);
    }
    const [best] = fits;
    await tomasz.do('book', {
      body: { workId: best!.workId, personId: lane.personId, startsAt: best!.startsAt, minutes: best!.minutes },
    });
    expect((await tomasz.do('listGapFits', { query })).fits.map((f) => f.workId)).not.toContain(best!.workId);
  });

  it('lists who can and when for a ticket: only gaps, only those who know how', async () => {
    const work = (await tomasz.do('listUnbooked', { query: {} })).work.find((w) => w.skill)!;
    const { fits } = await tomasz.do('listWorkFits', { params: { workId: work.workId }, query: { days: '3' } });
    const lanes = (await tomasz.do('getDispatch', { query: { days: '3' } })).lanes;
    expect(fits.length).toBeGreaterThan(0);
    for (const f of fits) {
      const lane = lanes.find((l) => l.personId === f.personId)!;
      expect(lane.skills.some((s) => s.skillId === work.skill!.id)).toBe(true);
      const inside = lane.days.flatMap((d) => d.gaps).some((g) => g.from <= f.startsAt && f.endsAt <= g.to);
      expect(inside).toBe(true);
    }
  });

  it('says of each estimate where it comes from, and takes what is typed', async () => {
    const [work] = (await tomasz.do('listUnbooked', { query: {} })).work.filter((w) => w.estimate.says.startsWith('learned from'));
    expect(work!.estimate.why.at(-1)!.rule).toMatch(/would have been enough in \d+ of \d+|cannot be told yet/);
    await tomasz.do('setEstimate', { params: { ticketId: work!.workId }, body: { minutes: 75 } });
    const again = (await tomasz.do('listUnbooked', { query: { q: String(work!.number) } })).work[0]!;
    expect([again.estimate.minutes, again.estimate.says]).toEqual([75, 'typed on the ticket']);
    const bad = await tomasz.ask('setEstimate', { params: { ticketId: work!.workId }, body: { minutes: 2 } });
    expect(bad.status).toBe(422);
  });

  it('narrows unbooked work by the filter of tickets', async () => {
    const all = async (query: Record<string, string>) => (await tomasz.do('listUnbooked', { query })).work;
    const withSkill = (await all({})).find((w) => w.skill)!;
    expect(new Set((await all({ skillId: withSkill.skill!.id })).map((w) => w.skill?.name))).toEqual(new Set([withSkill.skill!.name]));
    expect((await all({ visit: 'yes' })).every((w) => w.needsVisit)).toBe(true);
    expect((await all({ status: 'on hold', holdReason: 'client' })).every((w) => w.status === 'on hold')).toBe(true);
    const held = await world.knex('booking').whereIn('state', ['planned', 'underway']).pluck('ticket_id');
    expect((await all({})).filter((w) => held.includes(w.workId))).toEqual([]);
  });
});

describe('how long ways take', () => {
  it('is learned from three logged ways or more between the same places, and never over what somebody said', async () => {
    const [deepa, tx] = [await world.as('Deepa'), world.knex];
    const { id: personId } = await tx('person').where('name', 'like', 'Deepa%').first('id');
    const work = (await tomasz.do('listUnbooked', { query: {} })).work.find((w) => w.site)!;
    const house = await deepa.do('getHouse');
    const activityId = house.activities.find((a) => a.name === 'travel')!.id;
    const pair = async () => {
      const { pairs } = await tomasz.do('listTravel', { query: { from: personId } });
      return pairs.find((p) => p.bName === `${work.client}, ${work.site}`)!;
    };
    const log = (day: string, duration: string) =>
      deepa.do('addEntry', {
        body: {
          workId: work.workId,
          startsAt: `2026-11-${day}T07:00:00Z`,
          duration,
          activityId,
          note: 'the way',
          billable: true,
          reason: null,
        },
      });
    for (const [day, minutes] of [
      ['16', '40'],
      ['17', '44'],
    ] as const)
      await log(day, minutes);
    await learn(world.running.app);
    expect((await pair()).source).toBe('coordinates');
    await log('18', '90');
    await learn(world.running.app);
    expect(await pair()).toMatchObject({ minutes: 44, source: 'logged' });
    await tomasz.do('setTravel', { params: { aId: personId, bId: (await pair()).b }, body: { minutes: 50 } });
    await learn(world.running.app);
    expect(await pair()).toMatchObject({ minutes: 50, source: 'by hand' });
  });
});
