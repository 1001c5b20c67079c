import type { TicketWire } from '@core/desk';
import { formatInstant, plusSeconds } from '@core/ground';
import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';
import { openRoutines } from '../routines/open-routines';

let world: World;
let aoife: Script;
let deepa: Script;
let support: string;
let categoryId: string;
let who: { clientId: string; contactId: string };
beforeAll(async () => {
  world = await startWorld();
  [aoife, deepa] = [await world.as('Aoife'), await world.as('Deepa')];
  support = (await aoife.do('getHouse')).desks.find((d) => d.name === 'Support')!.id;
  categoryId = (await aoife.do('listCategories')).categories.find((c) => c.name === 'Files')!.id;
  const [found] = (await deepa.do('findContacts', { query: { q: 'orla hollin' } })).contacts;
  who = { clientId: found!.clientId, contactId: found!.id };
});
afterAll(() => world.stop());

const read = (ticketId: string): Promise<TicketWire> => aoife.do('getTicket', { params: { ticketId } });
const BARE = { kind: null, impact: null, urgency: null, categoryId: null, deskId: null, line: null, checklist: [] as string[] };
const sorted = () => ({ kind: 'internal', impact: 'one', urgency: 'can wait', categoryId, deskId: support, line: 'first' }) as const;
const template = (name: string, more: object = {}) =>
  aoife.do('addTemplate', { body: { ...BARE, name, subject: `${name} subject`, text: 'As always.', ...more } });
const open = (templateId: string | null) =>
  deepa.do('createTicket', {
    body: { ...who, subject: 'By hand', text: 'As said.', byCall: false, feeId: null, feeQuantity: 1, templateId, fields: [] },
  });

describe('contacts', () => {
  it('are found by parts of name, client and address in any order, or by figures of the number', async () => {
    const names = async (q: string) => (await deepa.do('findContacts', { query: { q } })).contacts.map((k) => k.name);
    expect(await names('holl orl')).toContain('Orla Devane');
    expect(await names('orla.devane@')).toEqual(['Orla Devane']);
    const { phone, name } = await world.knex('contact').whereNotNull('phone').whereNull('archived_at').first('phone', 'name');
    expect(await names(phone.replace(/\D/g, '').slice(-6))).toContain(name);
    expect(await names('100%')).toEqual([]);
    expect((await deepa.ask('findContacts', { query: { q: ' ' } })).status).toBe(422);
  });
});

describe('templates', () => {
  it('give a ticket their checklist, and their routing where they say all of it', async () => {
    const half = await template('Half', { kind: 'internal', checklist: ['Look', 'Listen'] });
    const lands = await open(half.id);
    expect([lands.routed, (await read(lands.id)).kind, (await read(lands.id)).checklist.map((i) => i.text)]).toEqual([
      false,
      'unsorted',
      ['Look', 'Listen'],
    ]);
    const whole = await template('Whole', { ...sorted(), checklist: ['Look'] });
    const routed = await open(whole.id);
    const t = await read(routed.id);
    expect([routed.routed, t.kind, t.desk, t.categoryId, t.version]).toEqual([true, 'internal', 'Support', categoryId, routed.version]);
    await aoife.do('archiveTemplate', { params: { templateId: whole.id }, version: 1 });
    const gone = await deepa.ask('createTicket', {
      body: { ...who, subject: 'x', text: 'x', byCall: false, feeId: null, feeQuantity: 1, templateId: whole.id, fields: [] },
    });
    expect([gone.status, detailOf(gone)]).toEqual([422, 'There is no such template.']);
  });

  it('hold checklists, put on a ticket without doubling what it has', async () => {
    const { id } = await open(null);
    const list = await aoife.do('addChecklistTemplate', { body: { name: 'Farewell', items: ['Keys', 'Card', 'Phone'] } });
    await deepa.do('addChecklistItem', { params: { ticketId: id }, body: { text: 'keys', ownerId: null, dueAt: null } });
    expect((await deepa.do('putChecklist', { params: { ticketId: id, checklistId: list.id } })).added).toBe(2);
    expect((await deepa.do('putChecklist', { params: { ticketId: id, checklistId: list.id } })).added).toBe(0);
    expect((await read(id)).checklist.map((i) => i.text)).toEqual(['keys', 'Card', 'Phone']);
    expect((await aoife.ask('addChecklistTemplate', { body: { name: 'Empty', items: [] } })).status).toBe(422);
  });
});

describe('routine work', () => {
  const due = async (id: string) => formatInstant((await world.knex('routine').where({ id }).first('next_at')).next_at);

  it('opens its ticket once a turn, though two processes look, and sleeps through no more than one', async () => {
    const look = await template('Look', sorted());
    const body = { name: 'Daily look', templateId: look.id, ...who, rule: 'freq=daily', startsOn: '2026-11-24', at: '11:00' };
    const tried = await aoife.do('tryRoutine', { body: { rule: body.rule, startsOn: body.startsOn, at: body.at } });
    expect([tried.says, tried.turns.slice(0, 2)]).toEqual(['every day', ['2026-11-24T11:00:00Z', '2026-11-25T11:00:00Z']]);
    const routine = await aoife.do('addRoutine', { body });
    expect(await due(routine.id)).toBe('2026-11-24T11:00:00Z');
    const opened = async () => world.knex('ticket').where({ routine_id: routine.id }).orderBy('number');
    await openRoutines(world.running.app);
    expect(await opened()).toEqual([]);
    // Three turns later: one ticket, and the next turn is tomorrow's.
    world.clock.forward(2 * 86_400 + 3600);
    await Promise.all([openRoutines(world.running.app), openRoutines(world.running.app)]);
    const [ticket, ...more] = await opened();
    expect([ticket.kind, ticket.subject, ticket.client_id, more.length]).toEqual(['internal', 'Look subject', who.clientId, 0]);
    expect(await due(routine.id)).toBe(formatInstant(plusSeconds(world.clock.now(), 86_400 - 40 * 60)));
    const listed = (await aoife.do('listRoutines')).routines.find((r) => r.id === routine.id)!;
    expect([listed.says, listed.last!.number, listed.last!.trouble]).toEqual(['every day', ticket.number, null]);
  });

  it('says why a turn could not open its ticket, and goes on with the next', async () => {
    const look = await template('Look again', sorted());
    const routine = await aoife.do('addRoutine', {
      body: { name: 'Lost look', templateId: look.id, ...who, rule: 'FREQ=DAILY', startsOn: '2026-11-24', at: '11:00' },
    });
    await aoife.do('setDeskLines', { body: { lines: (await aoife.do('listDeskLines')).lines.filter((l) => l.deskId !== support) } });
    world.clock.forward(86_400);
    await openRoutines(world.running.app);
    const listed = (await aoife.do('listRoutines')).routines.find((r) => r.id === routine.id)!;
    expect(listed.last).toMatchObject({ ticketId: null, trouble: 'Nobody staffs the first line of Support.' });
    expect(Date.parse(listed.nextAt!) / 1000).toBeGreaterThan(world.clock.now());
  });

  it('refuses a rule by the hour, one with no turn left, and a template that is put away while it is used', async () => {
    const look = await template('Last look', sorted());
    const body = { name: 'Bad', templateId: look.id, ...who, rule: 'FREQ=HOURLY', startsOn: '2026-11-24', at: '11:00' };
    expect((await aoife.ask('addRoutine', { body })).body).toMatchObject({ fields: { rule: expect.stringContaining('FREQ=WEEKLY') } });
    const over = await aoife.ask('addRoutine', { body: { ...body, rule: 'FREQ=DAILY;UNTIL=20251231T000000Z' } });
    expect(detailOf(over)).toBe('This rule has no turn left.');
    expect((await aoife.ask('addRoutine', { body: { ...body, rule: 'FREQ=DAILY', at: '25:00' } })).body).toMatchObject({
      fields: { at: 'a time of day such as 08:30' },
    });
    await aoife.do('addRoutine', { body: { ...body, rule: 'FREQ=WEEKLY' } });
    const used = await aoife.ask('archiveTemplate', { params: { templateId: look.id }, version: 1 });
    expect(detailOf(used)).toContain('The routine Bad opens it');
  });
});
