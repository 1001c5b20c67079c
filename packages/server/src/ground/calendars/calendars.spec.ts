import { formatInstant, parseInstant } from '@core/ground';
import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';
import { applyCalendar } from '../../desk/clocks/apply-calendar';

let world: World;
let aoife: Script;
beforeAll(async () => {
  world = await startWorld();
  aoife = await world.as('Aoife');
});
afterAll(() => world.stop());

const ours = async () => (await aoife.do('listCalendars')).calendars.find((c) => c.isProviders)!;
const formOf = ({ name, zone, week, dates }: Awaited<ReturnType<typeof ours>>) => ({
  name,
  zone,
  week: [...week],
  dates: dates.map((d) => ({ ...d })),
});

describe('calendars', () => {
  it('take the public holidays of a country and of a region of it', async () => {
    const ie = await aoife.do('listHolidays', { query: { country: 'IE', year: '2026' } });
    expect(ie.holidays).toContainEqual({ date: '2026-03-17', name: expect.stringContaining('Patrick') });
    expect(ie.countries.length).toBeGreaterThan(100);
    const [de, by] = await Promise.all(
      [{}, { region: 'BY' }].map((more) => aoife.do('listHolidays', { query: { country: 'DE', year: '2026', ...more } as never })),
    );
    expect(by!.holidays.length).toBeGreaterThan(de!.holidays.length);
    expect(detailOf(await aoife.ask('listHolidays', { query: { country: 'XX', year: '2026' } }))).toContain('XX was given');
    expect(detailOf(await aoife.ask('listHolidays', { query: { country: 'DE', region: 'QQ', year: '2026' } }))).toContain('QQ was given');
  });

  it('refuse hours that are none, and name the day', async () => {
    const now = await ours();
    const bad = { ...formOf(now), week: ['9 to 5', ...now.week.slice(1)] };
    const refused = await aoife.ask('editCalendar', { params: { calendarId: now.id }, version: now.version, body: bad });
    expect([refused.status, refused.body]).toMatchObject([
      422,
      { fields: { week: expect.stringContaining('day 1: not hours within one date: "9 to 5"') } },
    ]);
    expect((await ours()).version).toBe(now.version);
  });

  it('hold from now on: time counted stays, what runs falls due anew, what has ended never changes', async () => {
    const ended = await world
      .knex('ticket as t')
      .join('ticket_clock as c', 'c.ticket_id', 't.id')
      .where({ 't.status': 'closed', 'c.clock': 'resolution', 'c.state': 'met' })
      .orderBy('t.number')
      .first('t.id');
    const { promise_id: promiseId } = await world
      .knex('provider as h')
      .join('promise_version as v', 'v.id', 'h.promise_version_id')
      .first('v.promise_id');
    const running = await world
      .knex('ticket as t')
      .join('ticket_clock as c', 'c.ticket_id', 't.id')
      .join('promise_version as v', 'v.id', 't.promise_version_id')
      .where({ 't.status': 'queued', 'c.clock': 'resolution', 'c.state': 'running', 'v.promise_id': promiseId })
      .whereNull('t.umbrella_id')
      .orderBy('t.number', 'desc')
      .first('t.id');
    const resolution = async (ticketId: string) =>
      (await aoife.do('getTicket', { params: { ticketId } })).clocks.find((c) => c.clock === 'resolution')!;
    const [was, before, endedBefore] = [await ours(), await resolution(running.id), await resolution(ended.id)];
    // From tomorrow on the day is half as long.
    const week = was.week.map((h) => (h ? '08:00-13:00' : ''));
    const done = await aoife.do('editCalendar', { params: { calendarId: was.id }, version: was.version, body: { ...formOf(was), week } });
    await applyCalendar(world.running.app, { calendarId: was.id });
    const [after, endedAfter] = [await resolution(running.id), await resolution(ended.id)];
    expect([done.version, after.elapsed]).toEqual([was.version + 1, before.elapsed]);
    expect(Date.parse(after.dueAt!)).toBeGreaterThan(Date.parse(before.dueAt!));
    expect(endedAfter).toEqual(endedBefore);
    const stored = await world.knex('ticket_clock').where({ ticket_id: running.id, clock: 'resolution' }).first('due_at');
    expect(formatInstant(stored.due_at)).toBe(after.dueAt);
    const kept = await world.knex('calendar_version').where({ calendar_id: was.id }).first('until', 'written');
    expect([kept.until, kept.written.week[0]]).toEqual([parseInstant('2026-11-24T10:40:00Z'), [was.week[0]]]);
    const stale = await aoife.ask('editCalendar', { params: { calendarId: was.id }, version: was.version, body: formOf(was) });
    expect(stale.status).toBe(412);
  });
});
