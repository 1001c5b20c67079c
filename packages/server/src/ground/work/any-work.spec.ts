import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let [aoife, tomasz, sora]: Script[] = [];
let soraId: string;
let clientId: string;
let remote: string;
const DAY = '2026-11-24';
const slot = { startsAt: `${DAY}T13:00:00Z`, minutes: 60 };

beforeAll(async () => {
  world = await startWorld();
  [aoife, tomasz, sora] = [await world.as('Aoife'), await world.as('Tomasz'), await world.as('Sora')];
  soraId = (await world.knex('person').where('name', 'like', 'Sora%').first('id')).id;
  clientId = (await world.knex('client').where({ tax_exempt: false }).orderBy('number').first('id')).id;
  remote = (await aoife.do('getHouse')).activities.find((a) => a.name === 'remote')!.id;
});
afterAll(() => world.stop());

/** A kind of work that nothing knows of but the view of what is known of work. */
async function makeThirdKind(): Promise<string> {
  const [{ definition }] = (await world.knex.raw(`select pg_get_viewdef('work_facts') as definition`)).rows;
  const facts = (await world.knex('information_schema.columns').where({ table_name: 'work_facts' }).orderBy('ordinal_position')) as {
    column_name: string;
    data_type: string;
  }[];
  const own: Record<string, string> = { id: 'x.id', kind: `'project task'`, subject: 'x.name', client_id: 'x.client_id', ended: 'false' };
  const columns = facts.map((f) => own[f.column_name] ?? `null::${f.data_type}`);
  await world.knex.raw(`
    create table made_up_task (id uuid primary key default gen_random_uuid() references work, name text not null, client_id uuid references client);
    create trigger be_work before insert on made_up_task for each row execute function be_work('project task');
    create or replace view work_facts as ${String(definition).replace(/;\s*$/, '')} union all select ${columns.join(', ')} from made_up_task x`);
  const [task] = await world.knex('made_up_task').insert({ name: 'Move the server room', client_id: clientId }).returning('id');
  return task.id as string;
}

const bookingOf = async (workId: string) =>
  (await tomasz!.do('getDispatch', { query: { day: DAY } })).lanes
    .find((l) => l.personId === soraId)!
    .bookings.find((b) => b.workId === workId)!;
const sheet = () => sora!.do('getDaySheet', { query: { day: DAY } });

describe('work of a kind that nothing was written for', () => {
  it('is booked, timed, spent on, approved and charged like any other', async () => {
    const workId = await makeThirdKind();
    const named = { workId, workKind: 'project task', number: null, subject: 'Move the server room' };
    // Who can and when, a booking on a lane, and the same in the technician's day.
    expect((await tomasz!.do('listWorkFits', { params: { workId }, query: { days: '1' } })).fits.length).toBeGreaterThan(0);
    await tomasz!.do('book', { body: { workId, personId: soraId, ...slot } });
    const booking = await bookingOf(workId);
    expect(booking).toMatchObject({ ...named, state: 'planned' });
    expect((await sheet()).bookings.find((b) => b.id === booking.id)).toMatchObject(named);
    expect((await sora!.do('suggestRows', { query: { day: DAY } })).rows.find((r) => r.workId === workId)).toMatchObject({
      ...named,
      from: 'booked',
    });
    const told = await world.knex('event').where({ type: 'booking.made', subject_id: booking.id }).first();
    expect(told).toMatchObject({ ticket_id: null, client_id: clientId });
    // Begun, its timer runs; done, with the time that it took.
    world.clock.forward(3 * 3600);
    await sora!.do('startBooking', { params: { bookingId: booking.id }, version: booking.version, body: {} });
    expect((await sora!.do('listTimers')).timers.find((t) => t.runningSince)).toMatchObject(named);
    world.clock.forward(1800);
    expect(await sora!.do('getProposedTime', { params: { workId } })).toMatchObject({ minutes: 30, from: 'timer' });
    const query = { workId, startsAt: `${DAY}T13:40:00Z`, duration: '30', activityId: remote, billable: 'true' };
    const said = await sora!.do('previewEntry', { query });
    const now = await bookingOf(workId);
    const time = { duration: '30', activityId: remote, billable: true, reason: null };
    await sora!.do('finishBooking', { params: { bookingId: booking.id }, version: now.version, body: { time } });
    const entry = (await sheet()).entries.find((e) => e.workId === workId)!;
    expect(entry).toMatchObject({ ...named, minutes: 30 });
    expect((await bookingOf(workId)).state).toBe('done');
    // Charged to the task's client, as was said; and again in the week, with an expense.
    const charges = () =>
      world.knex('charge').where({ client_id: clientId, person_id: soraId, on_date: DAY }).whereNot({ state: 'withdrawn' });
    const labour = (await charges()).filter((c) => c.time_entry_id === entry.id);
    expect(labour.map((c) => Number(c.net_minor))).toEqual([said.amount!.minor]);
    expect(labour[0]).toMatchObject({
      ticket_id: null,
      division_id: (await world.knex('client').where({ id: clientId }).first()).division_id,
    });
    await sora!.do('setCells', { body: { cells: [{ workId, activityId: remote, day: DAY, typed: '45', was: 30 }] } });
    expect((await sora!.do('getWeekSheet', { query: { day: DAY } })).rows.find((r) => r.workId === workId)).toMatchObject(named);
    const { categories } = await sora!.do('listExpenses', { query: { from: DAY, to: DAY } });
    const category = categories.find((c) => c.billable)!;
    const spent = await sora!.do('addExpense', {
      body: {
        day: DAY,
        workId,
        categoryId: category.id,
        paid: '12.30',
        currency: 'EUR',
        exchange: null,
        taxPercent: '23',
        note: 'cable ties',
        billable: true,
        markupPercent: '0',
        ownMoney: true,
      },
    });
    expect((await charges()).find((c) => c.expense_id === spent.id)).toMatchObject({ net_minor: 1000 });
    // Approved, and to be billed.
    const week = await aoife!.do('getPersonWeek', { params: { personId: soraId }, query: { day: DAY } });
    const own = week.entries.filter((e) => e.entry.workId === workId);
    expect(own.map((e) => [e.entry.subject, e.entry.minutes, e.approval])).toEqual([['Move the server room', 45, 'open']]);
    const { id, version } = own[0]!.entry;
    await aoife!.do('decideTime', { body: { entries: [{ id, version }], expenses: [spent], decision: 'approve', remark: null } });
    const hours = await aoife!.do('listWorkedEntries', { query: { from: DAY, to: DAY, by: 'technician', key: soraId } });
    expect(hours.entries.find((e) => e.workId === workId)).toMatchObject({ ...named, minutes: 45 });
  });

  it('exists once in all: what is done on it points at one piece of work that is there', async () => {
    const { work_id: id } = await world.knex('booking').where({ work_kind: 'ticket' }).first('work_id');
    await expect(world.knex('timer').insert({ person_id: soraId, work_id: soraId, started_at: new Date() })).rejects.toThrow(
      /work_kind|foreign key/,
    );
    await expect(world.knex('internal_work').insert({ id, name: 'Twice' })).rejects.toThrow('work_pkey');
    await expect(world.knex('booking').where({ work_id: id }).update({ work_kind: 'internal work' })).rejects.toThrow('foreign key');
  });
});

describe('internal work', () => {
  it('is booked and timed from dispatch to the day, and charged to nobody', async () => {
    const { work } = await sora!.do('listInternalWork');
    const training = work.find((w) => w.name === 'Training')!;
    const at = { startsAt: '2026-11-25T09:00:00Z', minutes: 90 };
    const made = await tomasz!.do('book', { body: { workId: training.id, personId: soraId, ...at } });
    const lanes = (await tomasz!.do('getDispatch', { query: { day: '2026-11-25' } })).lanes;
    expect(lanes.find((l) => l.personId === soraId)!.bookings.find((b) => b.id === made.id)).toMatchObject({
      workKind: 'internal work',
      subject: 'Training',
      number: null,
      client: null,
    });
    await sora!.do('startTimer', { body: { workId: training.id } });
    world.clock.forward(1200);
    const [timer] = (await sora!.do('listTimers')).timers.filter((t) => t.workId === training.id);
    expect(timer).toMatchObject({ seconds: 1200, subject: 'Training' });
    const body = {
      workId: training.id,
      startsAt: `${DAY}T14:30:00Z`,
      duration: '20',
      activityId: remote,
      note: null,
      billable: true,
      reason: null,
    };
    const entry = await sora!.do('addEntry', { body: { ...body, timerId: timer!.id } });
    expect((await sheet()).entries.find((e) => e.id === entry.id)!.effect.sentence).toBe('internal, no charge');
    expect(await world.knex('charge').where({ time_entry_id: entry.id })).toEqual([]);
    // Nobody outside is told of it, and one that is put away takes no more bookings.
    await tomasz!.do('cancelBooking', {
      params: { bookingId: made.id },
      version: made.version,
      body: { reason: 'moved', tellClient: true },
    });
    await aoife!.do('archiveInternalWork', { params: { internalWorkId: training.id }, version: training.version });
    const refused = await tomasz!.ask('book', { body: { workId: training.id, personId: soraId, ...at } });
    expect(refused.status).toBe(409);
  });

  it('has one without a name, which stays', async () => {
    const { work } = await sora!.do('listInternalWork');
    const general = work.find((w) => w.name === 'Other internal work')!;
    const gone = await aoife!.ask('archiveInternalWork', { params: { internalWorkId: general.id }, version: general.version });
    expect(gone.status).toBe(409);
  });
});
