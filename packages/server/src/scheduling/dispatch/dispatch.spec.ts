import { detailOf, startWorld, until, type Script, type World } from '../../../testing/test-server';

let world: World;
let tomasz: Script;
let deepa: Script;
const ids: Record<string, string> = {};
beforeAll(async () => {
  world = await startWorld();
  [tomasz, deepa] = [await world.as('Tomasz'), await world.as('Deepa')];
  for (const name of ['Deepa', 'Sora', 'Hanna', 'Odalys'])
    ids[name] = (await world.knex('person').where('name', 'like', `${name}%`).first('id')).id;
});
afterAll(() => world.stop());

const lanes = async (query: Record<string, string> = {}) => (await tomasz.do('getDispatch', { query })).lanes;
const laneOf = async (name: string, query: Record<string, string> = {}) => (await lanes(query)).find((l) => l.personId === ids[name])!;
const waiting = async () =>
  (await tomasz.do('listUnbooked', { query: { notHeld: 'yes' } })).work.filter((w) => w.status === 'queued' && !w.needsVisit && !w.skill);
/** Free working time of Hanna, who has nothing booked today. */
const at = (time: string, day = '24') => `2026-11-${day}T${time}:00Z`;
const book = async (workId: string, more: object = {}) =>
  tomasz.do('book', { body: { workId, personId: ids['Hanna'], startsAt: at('14:00'), minutes: 30, ...more } });

describe('the lanes', () => {
  it('show one, three, five or seven days, of some teams or all, with figures by day', async () => {
    const [one, week] = [await tomasz.do('getDispatch'), await tomasz.do('getDispatch', { query: { day: '2026-11-26', days: '5' } })];
    expect([one.days.map((d) => d.day), week.days.map((d) => d.day)]).toEqual([
      ['2026-11-24'],
      ['2026-11-23', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27'],
    ]);
    const team = one.teams.find((t) => t.name === 'Second line')!;
    const some = await lanes({ teams: team.id });
    expect(new Set(some.filter((l) => l.personId).map((l) => l.team))).toEqual(new Set(['Second line']));
    const odalys = await laneOf('Odalys', { day: '2026-11-24', days: '5' });
    expect(odalys.days[3]!.working).toEqual([{ from: at('11:00', '26'), to: at('19:00', '26') }]);
    const refused = await tomasz.ask('getDispatch', { query: { days: '4' } });
    expect([refused.status, detailOf(refused)]).toEqual([422, expect.stringContaining('one of 1, 3, 5, 7')]);
    for (const day of ['2026-13-45', '2026-02-30', 'today']) expect((await tomasz.ask('getDispatch', { query: { day } })).status).toBe(422);
  });

  it('keep bookings without a technician in a lane of their own, and cancelled ones out unless asked for', async () => {
    const [work] = await waiting();
    const done = await book(work!.workId, { personId: null });
    const nobody = async (query = {}) => (await lanes(query)).find((l) => l.personId === null)?.bookings.map((b) => b.id) ?? [];
    expect(await nobody()).toEqual([done.id]);
    await tomasz.do('cancelBooking', { params: { bookingId: done.id }, version: 1, body: { reason: 'the client is away' } });
    expect(await nobody()).toEqual([]);
    const handed = await book(work!.workId, { personId: ids['Hanna'] });
    await tomasz.do('cancelBooking', { params: { bookingId: handed.id }, version: handed.version, body: { reason: 'rain' } });
    expect((await laneOf('Hanna')).bookings.map((b) => b.id)).not.toContain(handed.id);
    expect((await laneOf('Hanna', { cancelled: 'yes' })).bookings.find((b) => b.id === handed.id)!.cancelReason).toBe('rain');
  });

  it('show public holidays of a region, and a shift on one', async () => {
    const aoife = await world.as('Aoife');
    const day = '2026-12-25';
    expect((await laneOf('Sora', { day })).days[0]).toMatchObject({ holiday: 'Christmas Day', availableMinutes: 0 });
    const params = { personId: ids['Sora']! };
    await aoife.do('setShifts', { params, body: { from: day, to: day, weekdays: [5], hours: '10:00-12:00', note: null } });
    expect((await laneOf('Sora', { day })).days[0]!.availableMinutes).toBe(120);
    await aoife.do('removeShift', { params: { ...params, day } });
    await aoife.do('setPersonPlace', { params, body: { region: 'US-NY', homeName: null, latitude: null, longitude: null } });
    expect((await laneOf('Sora', { day: '2026-11-26' })).days[0]!.holiday).toBe('Thanksgiving Day');
    const bad = await aoife.ask('setPersonPlace', { params, body: { region: 'ZZ', homeName: null, latitude: null, longitude: null } });
    expect([bad.status, detailOf(bad)]).toEqual([422, expect.stringContaining('ZZ')]);
  });
});

describe('bookings', () => {
  it('are made for several technicians at once, who move together and are handed over alone', async () => {
    const [work] = await waiting();
    const first = await book(work!.workId, { withIds: [ids['Sora']] });
    const sora = async () => (await laneOf('Sora')).bookings.find((b) => b.workId === work!.workId)!;
    expect((await sora()).crewId).not.toBeNull();
    const moved = await tomasz.do('moveBooking', {
      params: { bookingId: first.id },
      version: first.version,
      body: { personId: ids['Hanna'], startsAt: at('15:00'), minutes: 45 },
    });
    expect([(await sora()).startsAt, (await sora()).endsAt]).toEqual([at('15:00'), at('15:45')]);
    await tomasz.do('moveBooking', {
      params: { bookingId: first.id },
      version: moved.version,
      body: { personId: ids['Odalys'], startsAt: at('15:00'), minutes: 45 },
    });
    expect((await sora()).personId).toBe(ids['Sora']);
    const kept = await world.knex('booking_change').where({ booking_id: first.id }).orderBy('id').pluck('what');
    expect(kept).toEqual(['booked', 'moved', 'handed over']);
  });

  it('are cancelled for all who come along where that is asked, and for one alone where not', async () => {
    const [work] = await waiting();
    const left = () => world.knex('booking').where({ ticket_id: work!.workId, state: 'planned' }).pluck('person_id');
    const one = await book(work!.workId, { withIds: [ids['Sora']] });
    await tomasz.do('cancelBooking', { params: { bookingId: one.id }, version: one.version, body: {} });
    expect(await left()).toEqual([ids['Sora']]);
    const all = await book(work!.workId, { withIds: [ids['Odalys']] });
    await tomasz.do('cancelBooking', { params: { bookingId: all.id }, version: all.version, body: { crew: true, series: true } });
    expect(await left()).toEqual([ids['Sora']]);
  });

  it('repeat at the same local time over a change of the clocks, and a series is cancelled from one on', async () => {
    const [work] = await waiting();
    const first = await book(work!.workId, { startsAt: '2027-03-15T09:00:00Z', repeat: 'week', times: 4 });
    const rows = () =>
      world
        .knex('booking')
        .where({ ticket_id: work!.workId, state: 'planned' })
        .orderBy('starts_at')
        .select('id', 'version', 'starts_at', 'series_id');
    const series = (await rows()).filter((b) => b.series_id);
    expect(series.map((b) => new Date(b.starts_at * 1000).toISOString().slice(5, 16))).toEqual([
      '03-15T09:00',
      '03-22T09:00',
      '03-29T08:00',
      '04-05T08:00',
    ]);
    expect(series[0].id).toBe(first.id);
    await tomasz.do('cancelBooking', { params: { bookingId: series[1].id }, version: 1, body: { reason: 'contract ends', series: true } });
    expect((await rows()).filter((b) => b.series_id).map((b) => b.id)).toEqual([first.id]);
  });

  it('leave a ticket queued while they are tentative, and book it once they are sure', async () => {
    const [work] = await waiting();
    const status = async () => (await world.knex('ticket').where({ id: work!.workId }).first('status')).status;
    const b = await book(work!.workId, { tentative: true });
    expect(await status()).toBe('queued');
    await tomasz.do('moveBooking', {
      params: { bookingId: b.id },
      version: b.version,
      body: { personId: ids['Hanna'], startsAt: at('14:00'), minutes: 30, tentative: false },
    });
    expect(await status()).toBe('booked');
  });

  it('keep the way to a visit and back free, by coordinates and then by what somebody says', async () => {
    const visit = (await tomasz.do('listUnbooked', { query: {} })).work.find((w) => w.client !== 'Ostrand Observatory Trust' && w.site)!;
    await tomasz.do('setNeedsVisit', { params: { ticketId: visit.workId }, body: { needsVisit: true } });
    const day = '2026-11-27';
    const b = await book(visit.workId, { startsAt: at('10:00', '27'), onSite: true });
    const shown = async () => (await laneOf('Hanna', { day })).bookings.find((x) => x.id === b.id)!;
    const by = await shown();
    expect(by.travelBefore).toBeGreaterThan(5);
    expect([by.travelAfter, by.place?.id]).toEqual([by.travelBefore, expect.any(String)]);
    await tomasz.do('setTravel', { params: { aId: ids['Hanna']!, bId: by.place!.id }, body: { minutes: 33 } });
    const pairs = (await tomasz.do('listTravel', { query: { from: ids['Hanna']! } })).pairs;
    expect(pairs.find((p) => p.b === by.place!.id)).toMatchObject({ minutes: 33, source: 'by hand', by: 'Tomasz Wieland' });
    await tomasz.do('moveBooking', {
      params: { bookingId: b.id },
      version: b.version,
      body: { personId: ids['Hanna'], startsAt: at('10:30', '27'), minutes: 30 },
    });
    expect([(await shown()).travelBefore, (await shown()).travelAfter]).toEqual([33, 33]);
    // What is said of a way holds on the lanes at once, and what coordinates say again when it is taken away.
    await tomasz.do('setTravel', { params: { aId: ids['Hanna']!, bId: by.place!.id }, body: { minutes: null } });
    expect((await shown()).travelBefore).toBe(by.travelBefore);
  });

  it('are refused to the second of two dispatchers, who is told what is there', async () => {
    const [work] = await waiting();
    const b = await book(work!.workId, { startsAt: at('16:00') });
    const move = (who: Script, startsAt: string) =>
      who.ask('moveBooking', { params: { bookingId: b.id }, version: b.version, body: { personId: ids['Hanna'], startsAt, minutes: 30 } });
    const answers = await Promise.all([move(tomasz, at('16:15')), move(await world.as('Aoife'), at('16:30'))]);
    expect(answers.map((a) => a.status).sort()).toEqual([200, 412]);
    const refused = answers.find((a) => a.status === 412)!;
    expect(detailOf(refused)).toContain('Somebody changed this meanwhile');
  });

  it('are confirmed to the client with an .ics that keeps its UID and is taken back by a cancellation', async () => {
    const work = (await waiting()).find((w) => w.client)!;
    const b = await book(work.workId, { startsAt: at('11:00', '26'), tellClient: true });
    const files = () =>
      world
        .knex('attachment as a')
        .join('message as m', 'm.id', 'a.message_id')
        .where({ 'm.ticket_id': work.workId, 'a.name': 'appointment.ics' })
        .orderBy('m.seq')
        .select('a.blob', 'm.text', 'm.automatic');
    await until('it is there', async () => (await world.mailbox()).some((m) => m.attachments.includes('appointment.ics')));
    await tomasz.do('cancelBooking', {
      params: { bookingId: b.id },
      version: b.version,
      body: { reason: 'The part is late.', tellClient: true },
    });
    const [asked, gone] = await files();
    const text = async (blob: string) => (await world.running.app.blobs.get(blob)).toString();
    const [first, second] = [await text(asked!.blob), await text(gone!.blob)];
    expect([asked!.automatic, asked!.text]).toEqual([true, expect.stringContaining('Thursday 26 November, 11:00')]);
    for (const part of ['METHOD:REQUEST', `UID:visit-${b.id}@pellworth.example`, 'SEQUENCE:0', 'DTSTART:20261126T110000Z'])
      expect(first).toContain(part);
    for (const part of ['METHOD:CANCEL', `UID:visit-${b.id}@pellworth.example`, 'SEQUENCE:1', 'STATUS:CANCELLED'])
      expect(second).toContain(part);
    expect(gone!.text).toContain('The part is late.');
  });

  it('are begun by their technician alone: the timer runs, booking and ticket are underway', async () => {
    const [work] = await waiting();
    const b = await book(work!.workId, { personId: ids['Deepa'], startsAt: at('16:30') });
    const start = { params: { bookingId: b.id }, version: b.version, body: {} };
    expect((await tomasz.ask('startBooking', start)).status).toBe(403);
    await deepa.do('startBooking', start);
    const row = await world
      .knex('booking as b')
      .join('ticket as t', 't.id', 'b.ticket_id')
      .where('b.id', b.id)
      .first('b.state', 't.status');
    expect(row).toEqual({ state: 'underway', status: 'underway' });
    const sheet = await deepa.do('getDaySheet', {});
    expect(sheet.timers.find((t) => t.workId === work!.workId)!.runningSince).not.toBeNull();
  });
});

describe('time that fits two bookings equally', () => {
  it('is asked about, and goes where its technician says', async () => {
    const [work] = await waiting();
    const spans = [at('08:30', '23'), at('09:00', '23')];
    const made = [];
    for (const startsAt of spans) made.push(await book(work!.workId, { personId: ids['Deepa'], startsAt, minutes: 30 }));
    const activityId = (await deepa.do('getHouse')).activities[0]!.id;
    const entry = await deepa.do('addEntry', {
      body: {
        workId: work!.workId,
        startsAt: at('08:45', '23'),
        duration: '30',
        activityId,
        note: 'both',
        billable: true,
        reason: null,
      },
    });
    for (const b of made) await deepa.do('finishBooking', { params: { bookingId: b.id }, version: b.version });
    const question = (await deepa.do('listQuestions')).questions.find((q) => q.entryId === entry.id)!;
    expect(question.bookings.map((b) => b.id)).toEqual(made.map((b) => b.id));
    await deepa.do('answerQuestion', { params: { entryId: entry.id }, body: { bookingId: made[1]!.id } });
    const later = await world.knex('booking').where({ id: made[1]!.id }).first('starts_at', 'ends_at');
    expect([later.starts_at, later.ends_at].map((t) => new Date(t * 1000).toISOString().slice(11, 16))).toEqual(['08:45', '09:15']);
    expect((await deepa.do('listQuestions')).questions.map((q) => q.entryId)).not.toContain(entry.id);
  });
});

describe('a booking that runs into the next', () => {
  it('rings dispatch once, with proposals that hold, until it is seen to', async () => {
    const overruns = async () => (await tomasz.do('listOverruns')).overruns;
    await until('it is there', async () => (await overruns()).length > 0);
    const [over] = await overruns();
    expect([over!.technician, over!.proposals.length > 0]).toEqual(['Yusuf Demirel', true]);
    const notices = async () => (await tomasz.do('listNotices')).notices.filter((n) => n.text.startsWith('Yusuf Demirel is over'));
    expect((await notices()).length).toBe(1);
    const hand = over!.proposals.find((p) => p.how === 'hand over')!;
    const lane = (await lanes()).find((l) => l.personId === hand.personId)!;
    const [from, to] = [Date.parse(hand.startsAt), Date.parse(hand.startsAt) + over!.next.minutes * 60_000];
    expect(lane.days[0]!.gaps.some((g) => Date.parse(g.from) <= from && to <= Date.parse(g.to))).toBe(true);
    await tomasz.do('settleOverrun', { params: { bookingId: over!.bookingId } });
    expect((await overruns()).map((o) => o.bookingId)).not.toContain(over!.bookingId);
    expect((await notices()).length).toBe(1);
  });
});
