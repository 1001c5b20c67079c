import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let soraId: string;
beforeAll(async () => {
  world = await startWorld();
  aoife = await world.as('Aoife');
  soraId = (await world.knex('person').where('name', 'like', 'Sora%').first('id')).id;
});
afterAll(() => world.stop());

const sora = async () => (await aoife.do('listPeopleTime')).people.find((p) => p.id === soraId)!;
const lane = async () => (await aoife.do('getDispatch')).lanes.find((l) => l.personId === soraId)!;
const params = () => ({ personId: soraId });

describe("people's time", () => {
  it('is set for dates of their own, and names a date or hours that are none', async () => {
    const body = { from: '2026-12-07', to: '2026-12-13', weekdays: [6, 7], hours: '09:00-12:00', note: 'weekend' };
    expect((await aoife.do('setShifts', { params: params(), body })).days).toBe(2);
    expect((await sora()).shifts.map((s) => `${s.day} ${s.hours}`)).toContain('2026-12-12 09:00-12:00');
    for (const wrong of [{ hours: 'all day' }, { to: '2026-12-01' }, { from: '2026-02-30' }, { weekdays: [] }])
      expect((await aoife.ask('setShifts', { params: params(), body: { ...body, ...wrong } })).status).toBe(422);
    expect((await aoife.ask('removeShift', { params: { ...params(), day: 'monday' } })).status).toBe(422);
    for (const day of ['2026-12-12', '2026-12-13']) await aoife.do('removeShift', { params: { ...params(), day } });
    expect((await sora()).shifts.some((s) => s.note === 'weekend')).toBe(false);
  });

  it('sets the hours of the week, which lanes count with; hours that are none are named by their day', async () => {
    const was = await sora();
    const week = was.week.map((h, i) => (i === 1 ? '10:00-12:00, 13:00-14:30' : h));
    await aoife.do('setWeek', { params: params(), body: { week } });
    expect([(await lane()).days[0]!.availableMinutes, (await sora()).week[1]]).toEqual([210, '10:00-12:00, 13:00-14:30']);
    const bad = await aoife.ask('setWeek', { params: params(), body: { week: ['ten to two', ...week.slice(1)] } });
    expect([bad.status, bad.body]).toMatchObject([422, { fields: { week: expect.stringContaining('day 1: not hours') } }]);
    expect((await aoife.ask('setWeek', { params: params(), body: { week: week.slice(1) } })).status).toBe(422);
    expect((await sora()).week[1]).toBe('10:00-12:00, 13:00-14:30');
    await aoife.do('setWeek', { params: params(), body: { week: [...was.week] } });
  });

  it('sets a skill at its level, and takes it away at none', async () => {
    const { id } = await aoife.do('addSkill', { body: { name: 'welding' } });
    expect(detailOf(await aoife.ask('addSkill', { body: { name: 'WELDING' } }))).toContain('already');
    const set = (skillId: string, level: number) => aoife.ask('setSkill', { params: { personId: soraId, skillId }, body: { level } });
    const before = (await sora()).skills;
    expect((await set(id, 3)).status).toBe(200);
    // Another skill, set in another window meanwhile, stays.
    expect((await sora()).skills).toEqual(expect.arrayContaining([...before, { skillId: id, level: 3 }]));
    expect([(await set(id, 4)).status, (await set(soraId, 1)).status]).toEqual([422, 404]);
    expect((await set(id, 0)).status).toBe(200);
    expect((await sora()).skills).toEqual(before);
  });

  it('writes down who is away, tells what is booked then, and shows it on the lane until it is taken away', async () => {
    const booked = (await lane()).bookings.filter((b) => b.state === 'planned').length;
    const body = { startsAt: '2026-11-24T00:00:00Z', endsAt: '2026-11-25T00:00:00Z', reason: 'sick' };
    const away = await aoife.do('addTimeOff', { params: params(), body });
    expect([away.bookings, (await lane()).days[0]!.availableMinutes]).toEqual([booked, 0]);
    const back = await aoife.ask('addTimeOff', { params: params(), body: { ...body, endsAt: body.startsAt } });
    expect([back.status, detailOf(back)]).toEqual([422, expect.stringContaining('it ends after it starts')]);
    expect((await aoife.do('removeTimeOff', { params: { timeOffId: away.id } })).removed).toBe(1);
    expect((await lane()).days[0]!.availableMinutes).toBeGreaterThan(0);
    expect((await (await world.as('Deepa')).ask('addTimeOff', { params: params(), body })).status).toBe(403);
  });
});
