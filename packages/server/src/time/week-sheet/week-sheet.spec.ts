import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let sora: Script;
let activityId: string;
let soraId: string;
const week = '2026-11-24';
beforeAll(async () => {
  world = await startWorld();
  sora = await world.as('Sora');
  soraId = (await world.knex('person').where('name', 'like', 'Sora%').first('id')).id;
  activityId = (await sora.do('getHouse')).activities[0]!.id;
});
afterAll(() => world.stop());

const sheet = () => sora.do('getWeekSheet', { query: { day: week } });
const ticket = async (n = 0) =>
  (
    await world
      .knex('ticket')
      .where({ status: 'queued', kind: 'incident' })
      .whereNull('umbrella_id')
      .orderBy('number')
      .offset(n)
      .first('id')
  ).id as string;
const cellOf = async (workId: string | null, day: string) =>
  (await sheet()).rows.find((r) => r.workId === workId && r.activityId === activityId)?.cells.find((c) => c.day === day);
const cell = ({
  workId,
  day,
  typed,
  was,
  note,
}: {
  readonly workId: string | null;
  readonly day: string;
  readonly typed: string;
  readonly was: number;
  readonly note?: string;
}) => ({
  workId,
  activityId,
  day,
  typed,
  was,
  ...(note === undefined ? {} : { note }),
});
const type = (...cells: object[]) => sora.ask('setCells', { body: { cells } });
const entries = (workId: string) =>
  world
    .knex('time_entry')
    .where({ ticket_id: workId, person_id: soraId })
    .whereNull('removed_at')
    .orderBy('starts_at')
    .select('id', 'minutes', 'note', 'version', 'starts_at', 'ends_at');

describe('the week as a grid', () => {
  it('has seven days from Monday with what is expected, and rows that add up to what the days have', async () => {
    const w = await sheet();
    expect(w.days.map((d) => d.day)).toEqual([
      '2026-11-23',
      '2026-11-24',
      '2026-11-25',
      '2026-11-26',
      '2026-11-27',
      '2026-11-28',
      '2026-11-29',
    ]);
    for (const { day, expectedMinutes } of w.days) {
      const own = await sora.do('getDaySheet', { query: { day } });
      expect(own.expectedMinutes).toBe(expectedMinutes);
      const minutes = w.rows.reduce((s, r) => s + r.cells.find((c) => c.day === day)!.minutes, 0);
      expect(minutes).toBe(own.recordedMinutes);
    }
  });

  it('adds, changes, notes and empties by what is typed, and stores only what changed', async () => {
    const id = await ticket();
    expect((await type(cell({ workId: id, day: '2026-11-23', typed: '1:30', was: 0, note: 'Cables' }))).body).toEqual({ changed: 1 });
    expect(await cellOf(id, '2026-11-23')).toMatchObject({ minutes: 90, note: 'Cables', entries: 1 });
    const [first] = await entries(id);
    expect((await type(cell({ workId: id, day: '2026-11-23', typed: '1.5', was: 90 }))).body).toEqual({ changed: 0 });
    expect((await entries(id))[0].version).toBe(first.version);
    expect((await type(cell({ workId: id, day: '2026-11-23', typed: '90m', was: 90, note: 'Cables and a switch' }))).body).toEqual({
      changed: 1,
    });
    await type(cell({ workId: id, day: '2026-11-23', typed: '45', was: 90 }), cell({ workId: id, day: '2026-11-24', typed: '20', was: 0 }));
    expect((await entries(id)).map((e) => [e.id === first.id, e.minutes, e.note])).toEqual([
      [true, 45, 'Cables and a switch'],
      [false, 20, null],
    ]);
    await type(cell({ workId: id, day: '2026-11-23', typed: '', was: 45 }));
    expect((await entries(id)).map((e) => e.minutes)).toEqual([20]);
    // What is charged follows.
    const charged = await world
      .knex('charge')
      .where({ ticket_id: id, state: 'proposed' })
      .whereNotNull('time_entry_id')
      .select('time_entry_id');
    expect(new Set(charged.map((c) => c.time_entry_id))).toEqual(new Set((await entries(id)).map((e) => e.id)));
  });

  it('puts what has no time of day into free working time, never over other entries', async () => {
    const [one, two] = [await ticket(1), await ticket(2)];
    await type(
      cell({ workId: one, day: '2026-11-20', typed: '2:00', was: 0 }),
      cell({ workId: two, day: '2026-11-20', typed: '1:00', was: 0 }),
    );
    expect((await sora.do('getDaySheet', { query: { day: '2026-11-20' } })).overlaps).toEqual([]);
  });

  it('tells the second of two devices what stands there meanwhile, and keeps all of a pasted block or nothing', async () => {
    const id = await ticket(3);
    await type(cell({ workId: id, day: '2026-11-23', typed: '30', was: 0 }));
    const second = await type(
      cell({ workId: id, day: '2026-11-24', typed: '15', was: 0 }),
      cell({ workId: id, day: '2026-11-23', typed: '40', was: 0 }),
    );
    expect([second.status, detailOf(second)]).toEqual([412, 'On 2026-11-23 there are 30 min meanwhile, and not 0 min.']);
    expect((second.body as { fields: object }).fields).toEqual({ 'cells[1]': '30 meanwhile' });
    expect((await entries(id)).map((e) => e.minutes)).toEqual([30]);
    for (const [typed, day] of [
      ['soon', '2026-11-23'],
      ['25:00', '2026-11-23'],
      ['30', '2026-11-31'],
    ] as const)
      // prettier-ignore
      expect((await type(cell({ workId: id, day, typed, was: 30 }))).status).toBe(422);
    const ahead = await type(cell({ workId: id, day: '2026-11-27', typed: '30', was: 0 }));
    expect([ahead.status, detailOf(ahead)]).toEqual([422, expect.stringContaining('still to come')]);
    await sora.do('closeDay', { body: { day: '2026-11-23' } });
    expect((await type(cell({ workId: id, day: '2026-11-23', typed: '', was: 30 }))).status).toBe(409);
    await sora.do('openDay', { body: { day: '2026-11-23' } });
  });

  it('leaves what money was decided on, and says how much that is', async () => {
    const id = await ticket(4);
    await type(cell({ workId: id, day: '2026-11-23', typed: '60', was: 0 }));
    const { id: chargeId, version } = await world
      .knex('charge')
      .whereIn(
        'time_entry_id',
        (await entries(id)).map((e) => e.id),
      )
      .first('id', 'version');
    const birte = await world.as('Aoife');
    await birte.do('decideCharge', {
      params: { chargeId },
      version,
      body: { decision: 'approve', reason: null, quantity: null, unitPrice: null, description: null, until: null },
    });
    const less = await type(cell({ workId: id, day: '2026-11-23', typed: '30', was: 60 }));
    expect([less.status, detailOf(less)]).toEqual([409, expect.stringContaining('1 h of 2026-11-23 are decided on')]);
    await type(cell({ workId: id, day: '2026-11-23', typed: '90', was: 60 }));
    expect((await entries(id)).map((e) => e.minutes).sort()).toEqual([30, 60]);
    expect(await cellOf(id, '2026-11-23')).toMatchObject({ minutes: 90, frozenMinutes: 60, entries: 2 });
  });

  it('suggests rows from bookings, the week before and habit, each once and none that is there', async () => {
    const id = await ticket(5);
    const tomasz = await world.as('Tomasz');
    await tomasz.do('book', { body: { workId: id, personId: soraId, startsAt: '2026-11-24T09:00:00Z', minutes: 60 } });
    for (const weeks of [1, 2, 3]) {
      const startsAt = new Date(Date.parse('2026-11-24T08:00:00Z') - weeks * 7 * 86_400_000).toISOString().replace('.000', '');
      await sora.do('addEntry', {
        body: { workId: null, startsAt, duration: '30', activityId, note: 'Stand-up', billable: true, reason: null },
      });
    }
    const { rows } = await sora.do('suggestRows', { query: { day: week } });
    expect(rows.find((r) => r.workId === id)).toMatchObject({ from: 'booked', minutes: [0, 60, 0, 0, 0, 0, 0] });
    expect(rows.find((r) => r.subject === 'Other internal work')).toMatchObject({
      from: 'last week',
      minutes: [0, 30, 0, 0, 0, 0, 0],
      note: 'Stand-up',
    });
    expect(new Set(rows.map((r) => `${r.workId} ${r.activityId}`)).size).toBe(rows.length);
    const there = new Set((await sheet()).rows.map((r) => `${r.workId} ${r.activityId}`));
    expect(rows.filter((r) => there.has(`${r.workId} ${r.activityId}`))).toEqual([]);
  });
});
