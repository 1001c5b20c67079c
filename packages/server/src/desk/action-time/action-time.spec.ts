import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let sora: Script;
let soraId: string;
let remote: string;
beforeAll(async () => {
  world = await startWorld();
  [aoife, sora] = [await world.as('Aoife'), await world.as('Sora')];
  soraId = (await world.knex('person').where('name', 'like', 'Sora%').first('id')).id;
  remote = (await sora.do('getHouse')).activities.find((a) => a.name === 'remote')!.id;
});
afterAll(() => world.stop());

const ticket = async (n: number) =>
  (
    await world
      .knex('ticket')
      .where({ status: 'queued', kind: 'incident' })
      .whereNull('umbrella_id')
      .whereNotNull('contact_id')
      .orderBy('number')
      .offset(n)
      .first('id')
  ).id as string;
const mine = (ticketId: string) =>
  world
    .knex('time_entry')
    .where({ ticket_id: ticketId, person_id: soraId })
    .whereNull('removed_at')
    .orderBy('starts_at')
    .select('minutes', 'note', 'inside_note', 'billable');
const time = (duration: string, more: object = {}) => ({ duration, activityId: remote, billable: true, reason: null, ...more });
const note = (ticketId: string, more: object) =>
  sora.ask('addNote', { params: { ticketId }, body: { text: 'Swapped the cable', uploadIds: [], ...more } });

describe('what is done carries its time', () => {
  it('records both in one step, and ends the timer that told of it', async () => {
    const id = await ticket(0);
    await sora.do('startTimer', { body: { workId: id } });
    world.clock.forward(26 * 60);
    expect(await sora.do('getProposedTime', { params: { workId: id } })).toMatchObject({ minutes: 26, from: 'timer' });
    expect((await note(id, { time: time('26') })).status).toBe(200);
    // An inside note stays inside: the note of time stands on the client's invoice.
    expect(await mine(id)).toEqual([{ minutes: 26, note: null, inside_note: 'Swapped the cable', billable: true }]);
    const charged = await world.knex('charge').where({ ticket_id: id, kind: 'labour' }).pluck('description');
    expect(charged.length).toBeGreaterThan(0);
    expect(charged.join()).not.toContain('Swapped');
    expect((await sora.do('listTimers')).timers.filter((t) => t.workId === id)).toEqual([]);
  });

  it('takes the way of a visit along, and names what cannot be one', async () => {
    const id = await ticket(5);
    const { activities, distanceUnit } = await sora.do('getProposedTime', { params: { workId: id } });
    const onSite = activities.find((a) => a.visit)!.id;
    expect(distanceUnit).toBe('km');
    const bad = await note(id, { time: time('30', { activityId: onSite, distance: 'far' }) });
    expect([bad.status, Object.keys((bad.body as { fields: object }).fields)]).toEqual([422, ['time.distance']]);
    expect((await note(id, { time: time('30', { activityId: onSite, distance: '18.5' }) })).status).toBe(200);
    const entry = await world.knex('time_entry').where({ ticket_id: id, person_id: soraId }).first('id', 'distance', 'distance_unit');
    expect([Number(entry.distance), entry.distance_unit]).toEqual([18.5, 'km']);
    const charges = await world.knex('charge').where({ time_entry_id: entry.id }).orderBy('part').pluck('kind');
    expect(charges.sort()).toEqual(['expense', 'fee', 'labour']);
  });

  it('does neither where one of them is refused, and names the place', async () => {
    const id = await ticket(1);
    const bad = await note(id, { time: time('soon') });
    expect([bad.status, Object.keys((bad.body as { fields: object }).fields)]).toEqual([422, ['time.duration']]);
    const why = await note(id, { time: time('10', { billable: false }) });
    expect(Object.keys((why.body as { fields: object }).fields)).toEqual(['time.reason']);
    const { messages, version } = await sora.do('getTicket', { params: { ticketId: id } });
    expect(messages.some((m) => m.text?.includes('Swapped the cable'))).toBe(false);
    const stale = await sora.ask('setTicketStatus', {
      params: { ticketId: id },
      version: version + 7,
      body: { status: 'underway', holdReason: null, override: null, ownStatusId: null, time: time('10') },
    });
    expect(stale.status).toBe(412);
    expect(await mine(id)).toEqual([]);
  });

  it('is asked for by kinds that say so, of those who record time', async () => {
    const { activities } = await aoife.do('getHouse');
    const { kinds } = await aoife.do('getDeskSettings');
    const incident = kinds.find((k) => k.kind === 'incident')!;
    const allowed = activities.filter((a) => a.name !== 'workshop').map((a) => a.id);
    await aoife.do('setKinds', { body: { kinds: [{ ...incident, asksTime: ['note', 'resolve'], activityIds: allowed }] } });
    const id = await ticket(2);
    const proposed = await sora.do('getProposedTime', { params: { workId: id } });
    expect(proposed.asks).toEqual(['note', 'resolve']);
    expect(proposed.activities.map((a) => a.id)).toEqual(allowed);
    const without = await note(id, {});
    expect([without.status, detailOf(without)]).toEqual([422, expect.stringContaining('asks for its time')]);
    const workshop = activities.find((a) => a.name === 'workshop')!.id;
    const barred = await note(id, { time: time('10', { activityId: workshop }) });
    expect([barred.status, detailOf(barred)]).toEqual([422, expect.stringContaining('workshop is not for tickets')]);
    expect((await note(id, { time: time('10') })).status).toBe(200);
    const tomasz = await world.as('Tomasz');
    const graded = (await world.knex('person').where('name', 'like', 'Tomasz%').first('grade_id')).grade_id;
    expect((await tomasz.ask('addNote', { params: { ticketId: id }, body: { text: 'rang them', uploadIds: [] } })).status).toBe(
      graded ? 422 : 200,
    );
    await aoife.do('setKinds', { body: { kinds: [incident] } });
  });

  it('proposes a booking as far as it has passed, and what is usual at the desk', async () => {
    const id = await ticket(3);
    const tomasz = await world.as('Tomasz');
    const at = new Date(world.clock.now() * 1000).toISOString().slice(0, 19) + 'Z';
    const made = await tomasz.do('book', { body: { workId: id, personId: soraId, startsAt: at, minutes: 60 } });
    world.clock.forward(40 * 60);
    const { desks, activities } = await aoife.do('getHouse');
    const deskId = (await world.knex('ticket').where({ id }).first('desk_id')).desk_id;
    const workshop = activities.find((a) => a.name === 'workshop')!.id;
    expect(desks.some((d) => d.id === deskId)).toBe(true);
    await aoife.do('setUsualActivity', { params: { deskId }, body: { activityId: workshop } });
    expect(await sora.do('getProposedTime', { params: { workId: id } })).toMatchObject({
      minutes: 40,
      from: 'booking',
      activityId: workshop,
    });
    const booking = await world.knex('booking').where({ id: made.id }).first('id', 'version');
    await sora.do('finishBooking', { params: { bookingId: booking.id }, version: booking.version, body: { time: time('35') } });
    expect(await mine(id)).toMatchObject([{ minutes: 35, note: 'visit' }]);
    expect((await world.knex('booking').where({ id: booking.id }).first('state')).state).toBe('done');
  });
});

describe('timers', () => {
  it('move to another ticket and add to what stands there', async () => {
    const [a, b] = [await ticket(4), await ticket(5)];
    await sora.do('startTimer', { body: { workId: b } });
    world.clock.forward(600);
    const { id } = await sora.do('startTimer', { body: { workId: a } });
    world.clock.forward(300);
    await sora.do('moveTimer', { params: { timerId: id }, body: { workId: b } });
    const { timers } = await sora.do('listTimers');
    expect(timers.filter((t) => [a, b].includes(t.workId))).toMatchObject([{ workId: b, seconds: 900 }]);
    expect(timers.filter((t) => t.runningSince)).toHaveLength(1);
    world.clock.forward(60);
    expect((await sora.do('listTimers')).timers.find((t) => t.workId === b)!.seconds).toBe(960);
    expect((await (await world.as('Deepa')).ask('moveTimer', { params: { timerId: id }, body: { workId: a } })).status).toBe(404);
  });

  it('start by themselves for who prefers that', async () => {
    expect((await sora.do('getSession')).timerOnOpen).toBe(false);
    await sora.do('setTimerOnOpen', { body: { on: true } });
    expect((await sora.do('getSession')).timerOnOpen).toBe(true);
    expect((await aoife.do('getSession')).timerOnOpen).toBe(false);
  });
});

describe('work on no ticket', () => {
  it('is recorded by name, charged to nobody, and kept when it is put away', async () => {
    const { work } = await sora.do('listInternalWork');
    const training = work.find((w) => w.name === 'Training')!;
    const body = {
      workId: training.id,
      startsAt: '2026-11-24T08:00:00Z',
      duration: '30',
      activityId: remote,
      note: 'course',
      billable: false,
      reason: 'internal',
    };
    await sora.do('addEntry', { body });
    const nothing = await sora.ask('addEntry', { body: { ...body, workId: soraId } });
    expect([nothing.status, detailOf(nothing)]).toEqual([422, 'There is no such work.']);
    await aoife.do('archiveInternalWork', { params: { internalWorkId: training.id }, version: training.version });
    const { entries } = await sora.do('getDaySheet', { query: { day: '2026-11-24' } });
    expect(entries.find((e) => e.workId === training.id)).toMatchObject({
      workKind: 'internal work',
      number: null,
      subject: 'Training',
      effect: { amount: null },
    });
    expect((await sora.do('listInternalWork')).work.some((w) => w.id === training.id)).toBe(false);
  });

  it('lies in the day, with the likely ticket of what is missing, and says over what new time would lie', async () => {
    const id = await ticket(1);
    await sora.do('addEntry', {
      body: { workId: id, startsAt: '2026-11-24T09:00:00Z', duration: '30', activityId: remote, note: 'x', billable: true, reason: null },
    });
    // A booking that stands then would be likelier.
    const her = world.knex('person').where('name', 'like', 'Sora%').select('id');
    await world.knex('booking').whereIn('person_id', her).update({ state: 'cancelled' });
    const { open, entries } = await sora.do('getDaySheet', { query: { day: '2026-11-24' } });
    const gap = open.find((g) => entries.some((e) => e.number && e.endsAt === g.from))!;
    expect(gap.likely?.because).toBe('worked on before');
    expect(entries.filter((e) => e.endsAt === gap.from).map((e) => e.workId)).toContain(gap.likely!.workId);
    const query = { workId: id, startsAt: '2026-11-24T09:15:00Z', duration: '30', activityId: remote, billable: 'true' };
    expect((await sora.do('previewEntry', { query })).over.map((o) => o.from)).toContain('2026-11-24T09:00:00Z');
    const own = entries.find((e) => e.workId === id)!;
    const over = async (more: object) =>
      (await sora.do('previewEntry', { query: { ...query, ...more } })).over.filter((o) => o.number === own.number).length;
    expect([await over({}), await over({ entryId: own.id })]).toEqual([1, 0]);
  });
});
