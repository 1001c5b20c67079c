import { formatInstant, plusSeconds } from '@core/ground';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let tomasz: Script;
let deepa: Script;
let deepaId: string;
let workId: string;
let activityId: string;
beforeAll(async () => {
  world = await startWorld();
  [tomasz, deepa] = [await world.as('Tomasz'), await world.as('Deepa')];
  deepaId = (await world.knex('person').where('name', 'like', 'Deepa%').first('id')).id;
  activityId = (await deepa.do('getHouse')).activities[0]!.id;
  const t = await world
    .knex('ticket as t')
    .where({ 't.status': 'queued', 't.kind': 'incident' })
    .whereNull('t.umbrella_id')
    .whereNotExists((q) => void q.from('booking as b').whereRaw('b.ticket_id = t.id'))
    .whereNotExists((q) => void q.from('time_entry as e').whereRaw('e.ticket_id = t.id'))
    .orderBy('t.number', 'desc')
    .first('t.id');
  workId = t.id;
  // Tomorrow at noon of the provider's zone: the demo's own bookings lie elsewhere.
  world.clock.forward(86_400 + 4800);
});
afterAll(() => world.stop());

const ago = (minutes: number) => formatInstant(plusSeconds(world.clock.now(), -minutes * 60));
const stored = async (id: string) => {
  const b = await world.knex('booking').where({ id }).first('starts_at', 'ends_at', 'planned_starts_at', 'planned_ends_at', 'state');
  return {
    from: formatInstant(b.starts_at),
    to: formatInstant(b.ends_at),
    state: b.state,
    plannedFrom: formatInstant(b.planned_starts_at),
  };
};
const entry = (startsAt: string, duration: string) => ({
  workId,
  startsAt,
  duration,
  activityId,
  note: null,
  billable: true,
  reason: null,
});
const gaps = async () =>
  (await tomasz.do('getDispatch')).lanes.find((l) => l.personId === deepaId)!.bookings.filter((b) => b.workId === workId);

describe('a booking that is done', () => {
  it('takes the span of the time logged in it; later changes move it, and undoing brings the plan back', async () => {
    const booking = await tomasz.do('book', { body: { workId, personId: deepaId, startsAt: ago(120), minutes: 120 } });
    const first = await deepa.do('addEntry', { body: entry(ago(100), '20') });
    expect((await stored(booking.id)).from).toBe(ago(120));
    const done = await deepa.do('finishBooking', { params: { bookingId: booking.id }, version: booking.version });
    expect(await stored(booking.id)).toEqual({ from: ago(100), to: ago(80), state: 'done', plannedFrom: ago(120) });
    const [shown] = await gaps();
    expect([shown!.startsAt, shown!.plannedStartsAt, shown!.plannedEndsAt]).toEqual([ago(100), ago(120), ago(0)]);
    // Logged afterwards, then made shorter, then taken away again.
    const second = await deepa.do('addEntry', { body: entry(ago(70), '60') });
    expect((await stored(booking.id)).to).toBe(ago(10));
    const shorter = await deepa.do('editEntry', { params: { entryId: second.id }, version: second.version, body: entry(ago(70), '30') });
    expect((await stored(booking.id)).to).toBe(ago(40));
    await deepa.do('removeEntry', { params: { entryId: second.id }, version: shorter.version });
    expect((await stored(booking.id)).to).toBe(ago(80));
    await deepa.do('removeEntry', { params: { entryId: first.id }, version: first.version });
    expect((await stored(booking.id)).from).toBe(ago(120));
    const { version } = await world.knex('booking').where({ id: booking.id }).first('version');
    expect(version).toBeGreaterThan(done.version);
    const sora = await world.as('Sora');
    expect((await sora.ask('restoreBooking', { params: { bookingId: booking.id }, version })).status).toBe(403);
    await deepa.do('restoreBooking', { params: { bookingId: booking.id }, version });
    expect(await stored(booking.id)).toMatchObject({ from: ago(120), to: ago(0), state: 'planned' });
  });

  it('flags what an overrun now collides with', async () => {
    const next = await world
      .knex('ticket')
      .where({ status: 'queued', kind: 'service request' })
      .whereNull('umbrella_id')
      .orderBy('number', 'desc')
      .first('id');
    world.clock.forward(3 * 3600);
    // Of what else stands on her day nothing is to collide.
    await world.knex('booking').where({ person_id: deepaId, state: 'planned' }).update({ state: 'cancelled' });
    const [early] = [await tomasz.do('book', { body: { workId, personId: deepaId, startsAt: ago(50), minutes: 30 } })];
    const late = await tomasz.do('book', { body: { workId: next.id, personId: deepaId, startsAt: ago(20), minutes: 30 } });
    const lane = async () => (await tomasz.do('getDispatch')).lanes.find((l) => l.personId === deepaId)!;
    expect((await lane()).conflicts.filter((c) => c.bookingId === late.id)).toEqual([]);
    await deepa.do('addEntry', { body: entry(ago(50), '45') });
    await deepa.do('finishBooking', { params: { bookingId: early.id }, version: early.version });
    expect((await lane()).conflicts.filter((c) => c.bookingId === late.id)).toEqual([
      { bookingId: late.id, why: 'overlaps another booking' },
    ]);
  });
});
