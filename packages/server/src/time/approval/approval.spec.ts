import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let sora: Script;
let soraId: string;
let remote: string;
let onSite: string;
const WEEK = '2026-11-24';
beforeAll(async () => {
  world = await startWorld();
  [aoife, sora] = [await world.as('Aoife'), await world.as('Sora')];
  soraId = (await world.knex('person').where('name', 'like', 'Sora%').first('id')).id;
  const { activities } = await sora.do('getHouse');
  [remote, onSite] = ['remote', 'on site'].map((name) => activities.find((a) => a.name === name)!.id) as [string, string];
  // Her Monday is told here alone.
  await world
    .knex('time_entry')
    .where({ person_id: soraId })
    .whereBetween('starts_at', ['2026-11-23T00:00:00Z', '2026-11-23T23:59:59Z'])
    .update({ removed_at: '2026-11-24T09:00:00Z' });
});
afterAll(() => world.stop());

const ticket = async (n: number) =>
  await world
    .knex('ticket')
    .where({ status: 'queued', kind: 'incident' })
    .whereNull('umbrella_id')
    .whereNotNull('client_id')
    .orderBy('number')
    .offset(n)
    .first('id', 'number');
const record = ({
  workId,
  startsAt,
  duration,
  more = {},
}: {
  readonly workId: string | null;
  readonly startsAt: string;
  readonly duration: string;
  readonly more?: object;
}) =>
  sora.do('addEntry', {
    body: { workId, startsAt, duration, activityId: remote, note: 'looked at it', billable: true, reason: null, ...more },
  });
const week = () => aoife.do('getPersonWeek', { params: { personId: soraId }, query: { day: WEEK } });
const judged = async (id: string) => (await week()).entries.find((e) => e.entry.id === id)!;
const decide = (decision: string, entries: object[], more: object = {}) =>
  aoife.ask('decideTime', { body: { entries, expenses: [], decision, remark: null, ...more } });
const chargesOf = (id: string) => world.knex('charge').where({ time_entry_id: id }).orderBy('part');

describe('approval of time', () => {
  it('shows a week with what is expected, and what is odd about each entry', async () => {
    const [a, b] = [await ticket(0), await ticket(1)];
    const over = await record({ workId: a.id, startsAt: '2026-11-23T10:00:00Z', duration: '60' });
    const under = await record({ workId: b.id, startsAt: '2026-11-23T10:30:00Z', duration: '60', more: { note: null } });
    const late = await record({ workId: b.id, startsAt: '2026-11-23T19:00:00Z', duration: '30' });
    const w = await week();
    expect(w.days.map((d) => d.expectedMinutes)).toEqual(
      (await sora.do('getWeekSheet', { query: { day: WEEK } })).days.map((d) => d.expectedMinutes),
    );
    const marks = (id: string) => w.entries.find((e) => e.entry.id === id)!.odd.map((o) => o.mark);
    expect(marks(over.id)).toContain('overlapping');
    expect(marks(under.id)).toEqual(expect.arrayContaining(['overlapping', 'no note']));
    expect(marks(late.id)).toContain('out of hours');
    expect(w.entries.find((e) => e.entry.id === over.id)!.odd.find((o) => o.mark === 'overlapping')!.says).toContain('30 min');
    const team = (await aoife.do('getTeamWeek', { query: { day: WEEK } })).people.find((p) => p.id === soraId)!;
    expect(team.waiting).toBe(
      w.entries.filter((e) => e.approval === 'open').length + w.expenses.filter((x) => x.expense.approval === 'open').length,
    );
    expect(team.odd).toBeGreaterThanOrEqual(3);
  });

  it('finds long what is longer than the house says', async () => {
    const t = await ticket(7);
    const { id } = await record({ workId: t.id, startsAt: '2026-11-23T17:30:00Z', duration: '200' });
    const marks = async () => (await judged(id)).odd.find((o) => o.mark === 'long')?.says;
    const judgedThen = async (duration: string) => {
      await aoife.do('setLongTime', { body: { duration } });
      return marks();
    };
    expect(await marks()).toBeUndefined();
    expect(await judgedThen('3 h')).toContain('3 h 20');
    expect(await judgedThen('3:20')).toBeUndefined();
    for (const duration of ['', 'a day', '10', '25 h']) expect((await aoife.ask('setLongTime', { body: { duration } })).status).toBe(422);
    expect((await sora.ask('setLongTime', { body: { duration: '2 h' } })).status).toBe(403);
    expect((await aoife.do('getHouse')).longMinutes).toBe(200);
    await aoife.do('setLongTime', { body: { duration: '5 h' } });
  });

  it('approves all that is named or nothing, and locks it', async () => {
    const t = await ticket(2);
    const [one, two] = [
      await record({ workId: t.id, startsAt: '2026-11-23T13:00:00Z', duration: '30' }),
      await record({ workId: t.id, startsAt: '2026-11-23T14:00:00Z', duration: '30' }),
    ];
    const stale = await decide('approve', [one, { ...two, version: two.version + 1 }]);
    expect(stale.status).toBe(412);
    expect((await judged(one.id)).approval).toBe('open');
    expect((await decide('approve', [one, two])).body).toEqual({ decided: 2 });
    const { entry, trace } = await judged(one.id);
    expect(entry.approval).toBe('approved');
    expect(trace).toMatchObject([{ who: 'Aoife Brannigan', what: 'approved' }]);
    const body = {
      workId: t.id,
      startsAt: entry.startsAt,
      duration: '45',
      activityId: remote,
      note: 'more',
      billable: true,
      reason: null,
    };
    const change = await sora.ask('editEntry', { params: { entryId: one.id }, version: entry.version, body });
    expect([change.status, detailOf(change)]).toEqual([409, expect.stringContaining('approved and locked')]);
    expect((await sora.ask('removeEntry', { params: { entryId: one.id }, version: entry.version })).status).toBe(409);
    const cell = { workId: t.id, activityId: remote, day: '2026-11-23', typed: '30', was: 60 };
    expect((await sora.ask('setCells', { body: { cells: [cell] } })).status).toBe(409);
    const again = await decide('approve', [{ id: one.id, version: entry.version }]);
    expect([again.status, detailOf(again)]).toEqual([409, expect.stringContaining('approved already')]);
  });

  it('is not for oneself, nor for who has no right to it', async () => {
    const aoifes = await aoife.ask('addEntry', {
      body: {
        workId: null,
        startsAt: '2026-11-23T09:00:00Z',
        duration: '30',
        activityId: remote,
        note: 'x',
        billable: false,
        reason: 'internal',
      },
    });
    if (aoifes.status === 200) expect((await decide('approve', [aoifes.body])).status).toBe(403);
    const t = await ticket(3);
    const mine = await record({ workId: t.id, startsAt: '2026-11-23T15:00:00Z', duration: '20' });
    expect((await sora.ask('decideTime', { body: { entries: [mine], expenses: [], decision: 'approve', remark: null } })).status).toBe(403);
  });

  it('returns with a remark, which opens the day and tells the person; a change waits again', async () => {
    const t = await ticket(4);
    const entry = await record({ workId: t.id, startsAt: '2026-11-20T11:00:00Z', duration: '50' });
    await sora.do('declareComplete', { body: { upTo: '2026-11-20' } });
    expect((await decide('return', [entry])).status).toBe(422);
    await decide('return', [entry], { remark: 'Which room?' });
    const day = await sora.do('getDaySheet', { query: { day: '2026-11-20' } });
    expect([day.closedAt, day.completeUpTo]).toEqual([null, '2026-11-19']);
    const returned = day.entries.find((e) => e.id === entry.id)!;
    expect(returned).toMatchObject({ approval: 'returned', remark: 'Which room?' });
    const { notices } = await sora.do('listNotices');
    expect(notices.some((n) => n.text.includes('Which room?'))).toBe(true);
    const { workId, startsAt, activityId } = returned;
    const body = { workId, startsAt, duration: '50', activityId, note: 'the server room', billable: true, reason: null };
    await sora.do('editEntry', { params: { entryId: entry.id }, version: returned.version, body });
    expect((await sora.do('getDaySheet', { query: { day: '2026-11-20' } })).entries.find((e) => e.id === entry.id)!.approval).toBe('open');
  });

  it('is changed by who approves with trace, and its person is told', async () => {
    const t = await ticket(5);
    const { id, version } = await record({ workId: t.id, startsAt: '2026-11-23T16:00:00Z', duration: '60' });
    const body = {
      workId: t.id,
      startsAt: '2026-11-23T16:00:00Z',
      duration: '45',
      activityId: remote,
      note: 'looked at it',
      billable: true,
      reason: null,
    };
    expect((await aoife.ask('changeTimeOf', { params: { entryId: id }, version, body: { ...body, because: '' } })).status).toBe(422);
    const said = await aoife.do('previewChangeOf', {
      params: { entryId: id },
      body: { startsAt: body.startsAt, duration: '45', activityId: remote, billable: true },
    });
    await aoife.do('changeTimeOf', { params: { entryId: id }, version, body: { ...body, because: 'the call was shorter' } });
    const { entry, trace } = await judged(id);
    expect(entry.minutes).toBe(45);
    expect(said.effect).toEqual(entry.effect);
    expect(trace).toMatchObject([{ what: 'changed, was 1 h remote', remark: 'the call was shorter' }]);
    expect((await sora.do('listNotices')).notices.some((n) => n.text.includes('the call was shorter'))).toBe(true);
  });

  it('is corrected by a row of its own; charges come to what is right, to the cent', async () => {
    const t = await ticket(6);
    const { id, version } = await record({ workId: t.id, startsAt: '2026-11-23T08:00:00Z', duration: '60', more: { activityId: onSite } });
    await decide('approve', [{ id, version }]);
    const before = await chargesOf(id);
    expect((await sora.ask('correctTime', { params: { entryId: id }, body: { duration: '60', reason: 'x' } })).status).toBe(422);
    const said = (duration: string) => sora.do('previewCorrection', { params: { entryId: id }, body: { duration } });
    const less = await sora.do('correctTime', { params: { entryId: id }, body: { duration: '25', reason: 'the lift was out' } });
    expect(await chargesOf(id)).toEqual(before);
    const effect = async (of: string) => (await judged(of)).entry.effect;
    const labour = before.filter((c) => c.kind === 'labour').reduce((s, c) => s + c.net_minor, 0);
    const [given] = await chargesOf(less.id);
    const preview = await sora.do('previewEntry', {
      query: { workId: t.id, startsAt: '2026-11-23T08:00:00Z', duration: '25', activityId: onSite, billable: 'true' },
    });
    expect(labour + given.net_minor).toBe(preview.amount!.minor);
    expect((await effect(less.id)).sentence).toContain('less to the client');
    expect((await said('25')).effect).toMatchObject({ amount: { minor: 0 }, minutes: 0 });
    const longer = await said('90');
    const more = await sora.do('correctTime', { params: { entryId: less.id }, body: { duration: '90', reason: 'no, longer' } });
    const whole = await sora.do('previewEntry', {
      query: { workId: t.id, startsAt: '2026-11-23T08:00:00Z', duration: '90', activityId: onSite, billable: 'true' },
    });
    const all = [...before.filter((c) => c.kind === 'labour'), ...(await chargesOf(less.id)), ...(await chargesOf(more.id))];
    expect(all.reduce((s, c) => s + c.net_minor, 0)).toBe(whole.amount!.minor);
    expect(longer.effect).toEqual(await effect(more.id));
    expect(longer.effect.amount!.minor).toBe((await chargesOf(more.id)).reduce((s, c) => s + c.net_minor, 0));
    expect((await judged(more.id)).entry).toMatchObject({ minutes: 65, corrects: true, approval: 'open' });
    const takenBack = await decide('take back', [{ id, version: version + 1 }]);
    expect([takenBack.status, detailOf(takenBack)]).toEqual([409, expect.stringContaining('correction builds on it')]);
    const sheet = (await sora.do('getWeekSheet', { query: { day: WEEK } })).rows.find((r) => r.workId === t.id)!;
    expect(sheet.cells[0]).toMatchObject({ minutes: 90, approvedMinutes: 60 });
  });

  it('keeps every decision for ever', async () => {
    const t = await ticket(7);
    const { id, version } = await record({ workId: t.id, startsAt: '2026-11-20T15:00:00Z', duration: '20' });
    await decide('approve', [{ id, version }]);
    await decide('take back', [{ id, version: version + 1 }]);
    await decide('return', [{ id, version: version + 2 }], { remark: 'who rang?' });
    const rows = await world.knex('time_decision').where({ entry_id: id }).orderBy('id').select('decision', 'remark');
    expect(rows).toEqual([
      { decision: 'approve', remark: null },
      { decision: 'take back', remark: null },
      { decision: 'return', remark: 'who rang?' },
    ]);
  });
});
