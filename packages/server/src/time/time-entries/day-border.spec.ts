import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let sora: Script;
let activityId: string;
let workId: string;
beforeAll(async () => {
  world = await startWorld();
  sora = await world.as('Sora');
  activityId = (await sora.do('getHouse')).activities.find((a) => a.name === 'remote')!.id;
  workId = (
    await world
      .knex('ticket')
      .where({ status: 'queued', kind: 'incident' })
      .whereNull('umbrella_id')
      .whereNotNull('client_id')
      .orderBy('number')
      .first('id')
  ).id;
  // Of this ticket there is to be just what is recorded here.
  await world.knex('time_entry').where({ ticket_id: workId }).update({ removed_at: '2026-11-24T10:40:00Z' });
});
afterAll(() => world.stop());

const record = (startsAt: string, duration: string) =>
  sora.do('addEntry', { body: { workId, startsAt, duration, activityId, note: 'night work', billable: true, reason: null } });
const day = (on: string) => sora.do('getDaySheet', { query: { day: on } });
const ofTicket = async (on: string) => (await day(on)).entries.filter((e) => e.workId === workId);

describe('the borders of days', () => {
  it('leave an entry over midnight on the day it began, whole, and once', async () => {
    const before = await Promise.all(['2026-11-21', '2026-11-22'].map(async (d) => (await day(d)).recordedMinutes));
    await record('2026-11-21T23:20:00Z', '95');
    const after = await Promise.all(['2026-11-21', '2026-11-22'].map(async (d) => (await day(d)).recordedMinutes));
    expect(after).toEqual([before[0]! + 95, before[1]]);
    expect((await ofTicket('2026-11-21')).map((e) => e.minutes)).toEqual([95]);
    expect(await ofTicket('2026-11-22')).toEqual([]);
    const { rows } = await sora.do('getWeekSheet', { query: { day: '2026-11-21' } });
    const cells = rows.find((r) => r.workId === workId)!.cells;
    expect(cells.filter((c) => c.minutes).map((c) => [c.day, c.minutes])).toEqual([['2026-11-21', 95]]);
  });

  it('are those of the house on a day of twenty-five hours, to the minute', async () => {
    // The clock goes back in the night to 25 October: from midnight in summer time to midnight in winter time.
    await record('2026-10-24T23:00:00Z', '30');
    await record('2026-10-25T00:30:00Z', '90');
    await record('2026-10-25T23:30:00Z', '25');
    expect((await ofTicket('2026-10-25')).map((e) => [e.startsAt, e.minutes])).toEqual([
      ['2026-10-24T23:00:00Z', 30],
      ['2026-10-25T00:30:00Z', 90],
      ['2026-10-25T23:30:00Z', 25],
    ]);
    expect((await day('2026-10-25')).recordedMinutes).toBe(145);
    expect(await ofTicket('2026-10-24')).toEqual([]);
    const { rows } = await sora.do('getWeekSheet', { query: { day: '2026-10-25' } });
    expect(rows.find((r) => r.workId === workId)!.cells.at(-1)).toMatchObject({ day: '2026-10-25', minutes: 145, entries: 3 });
  });

  it('split what an entry charges at the time band and not at midnight, and its parts add up to it', async () => {
    // Friday evening to Saturday: half an hour of working hours, the rest out of hours in one piece.
    const { id } = await record('2026-11-20T17:30:00Z', '480');
    const charges = await world.knex('charge').where({ time_entry_id: id, kind: 'labour' }).orderBy('part');
    expect(charges.map((c) => Number(c.quantity))).toEqual([30, 450]);
    const { effect } = (await ofTicket('2026-11-20')).find((e) => e.id === id)!;
    expect(charges.reduce((sum, c) => sum + c.net_minor, 0)).toBe(effect.amount!.minor);
    expect(effect.why.length).toBeGreaterThan(2);
  });

  it('go by who declared what: a closed day takes nothing, the open one beside it does', async () => {
    await sora.do('closeDay', { body: { day: '2026-11-21' } });
    const body = { workId, startsAt: '2026-11-21T23:59:00Z', duration: '10', activityId, note: 'late', billable: true, reason: null };
    expect((await sora.ask('addEntry', { body })).status).toBe(409);
    expect((await sora.ask('addEntry', { body: { ...body, startsAt: '2026-11-22T00:00:00Z' } })).status).toBe(200);
  });
});
