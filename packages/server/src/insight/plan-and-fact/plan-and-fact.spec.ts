import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let tomasz: Script;
beforeAll(async () => {
  world = await startWorld();
  tomasz = await world.as('Tomasz');
});
afterAll(() => world.stop());

const span = { from: '2026-11-16', to: '2026-11-24' };
const report = (by: string, more: Record<string, string> = {}) => tomasz.do('getPlanAndFact', { query: { ...span, by, ...more } });

describe('plan and fact', () => {
  it('says the same in total by technician, kind and client, and every row opens into its bookings', async () => {
    const all = await Promise.all(['technician', 'kind', 'client'].map((by) => report(by)));
    expect(new Set(all.map((r) => JSON.stringify(r.total))).size).toBe(1);
    const [byPerson] = all;
    expect(byPerson!.total.bookings).toBeGreaterThan(5);
    for (const row of byPerson!.rows) {
      const { bookings, count } = await tomasz.do('listFactBookings', { query: { ...span, by: 'technician', key: row.key } });
      expect(count).toBe(row.bookings);
      const done = bookings.filter((b) => b.state === 'done');
      expect(done.reduce((sum, b) => sum + b.actualMinutes!, 0)).toBe(row.actualMinutes);
      expect(done.reduce((sum, b) => sum + b.plannedMinutes, 0)).toBe(row.plannedMinutes);
      expect(bookings.reduce((sum, b) => sum + b.moves, 0)).toBe(row.moves);
    }
  });

  it('counts lost time as the lanes of those days do', async () => {
    const { lanes } = await tomasz.do('getDispatch', { query: { day: '2026-11-23' } });
    const { rows } = await report('technician', { from: '2026-11-23', to: '2026-11-23' });
    for (const lane of lanes.filter((l) => l.personId)) {
      const row = rows.find((r) => r.key === lane.personId);
      expect(row?.lostMinutes ?? 0).toBe(lane.days[0]!.lostMinutes);
    }
  });

  it('follows a booking that is moved, handed over, done in less time, and one that is cancelled', async () => {
    const [hanna, sora] = await Promise.all(
      ['Hanna', 'Sora'].map(async (n) => (await world.knex('person').where('name', 'like', `${n}%`).first('id')).id as string),
    );
    const work = (await tomasz.do('listUnbooked', { query: { notHeld: 'yes' } })).work.filter((w) => w.status === 'queued' && !w.skill);
    const of = async (id: string) => (await report('technician')).rows.find((r) => r.key === id);
    const before = (await of(sora!))!;
    const body = { personId: hanna, startsAt: '2026-11-24T13:30:00Z', minutes: 60 };
    const made = await tomasz.do('book', { body: { workId: work[0]!.workId, ...body } });
    const to = (version: number, more: object) =>
      tomasz.do('moveBooking', { params: { bookingId: made.id }, version, body: { ...body, ...more } });
    const moved = await to(made.version, { startsAt: '2026-11-24T14:00:00Z' });
    const handed = await to(moved.version, { startsAt: '2026-11-24T14:00:00Z', personId: sora });
    expect(await of(sora!)).toMatchObject({
      bookings: before.bookings + 1,
      moves: before.moves + 2,
      aheadMinutes: before.aheadMinutes + 60,
    });
    const other = await tomasz.do('book', { body: { workId: work[1]!.workId, ...body, personId: sora } });
    await tomasz.do('cancelBooking', { params: { bookingId: other.id }, version: other.version, body: { reason: 'rain' } });
    const held = await tomasz.do('book', { body: { workId: work[1]!.workId, ...body, personId: sora, tentative: true } });
    world.clock.forward(5 * 3600);
    const script = await world.as('Sora');
    const activity = (await world.knex('activity').where({ name: 'remote' }).first('id')).id;
    await script.do('addEntry', {
      body: {
        workId: work[0]!.workId,
        startsAt: '2026-11-24T14:00:00Z',
        duration: '35',
        activityId: activity,
        note: 'quick',
        billable: true,
        reason: null,
      },
    });
    await script.do('finishBooking', { params: { bookingId: made.id }, version: handed.version });
    const after = (await of(sora!))!;
    expect(after).toMatchObject({
      bookings: before.bookings + 2,
      cancelled: before.cancelled + 1,
      done: before.done + 1,
      moved: before.moved + 1,
      plannedMinutes: before.plannedMinutes + 60,
      actualMinutes: before.actualMinutes + 35,
      aheadMinutes: before.aheadMinutes,
    });
    expect(held.id).toBeDefined();
  });

  it('refuses spans that end before they begin or are longer than a report can be', async () => {
    for (const bad of [
      { from: '2026-11-24', to: '2026-11-23' },
      { from: '2024-01-01', to: '2026-11-23' },
      { from: '2026-02-30', to: '2026-03-01' },
    ]) {
      const refused = await tomasz.ask('getPlanAndFact', { query: { ...bad, by: 'kind' } });
      expect(refused.status).toBe(422);
      expect(detailOf(refused).length).toBeGreaterThan(10);
    }
    expect((await tomasz.ask('getPlanAndFact', { query: { ...span, by: 'mood' } })).status).toBe(422);
  });
});
