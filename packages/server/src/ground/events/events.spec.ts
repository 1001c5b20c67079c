import { HouseBook } from '../../house/house/house-book';
import { EVENT_TYPES } from '@core/events';
import type { EventWire } from '@core/ground';
import { byJob, byRule } from '../../app/actor';
import { makeWork, workAs } from '../../app/work';
import { startWorld, STORY, until, type World } from '../../../testing/test-server';
import { readEvents } from './read-events';

let world: World;
let book: HouseBook;
beforeAll(async () => {
  world = await startWorld();
  book = new HouseBook();
  await book.load(world.knex);
});
afterAll(() => world.stop());

const readAll = async (after: string | null = null) => {
  const read: EventWire[] = [];
  let place = after;
  for (;;) {
    const { events, place: next } = await readEvents(world.knex, place, 400);
    if (!events.length) return { read, place };
    read.push(...events);
    place = next;
  }
};
/** Both events that are awaited; transactions of other databases of the cluster may hold them back for a moment. */
const readUntil = (place: string | null, awaited: (e: EventWire) => boolean) =>
  until('both are read', async () => {
    const read = (await readAll(place)).read.filter(awaited);
    return read.length === 2 && read;
  });
const aTicket = () => world.knex('ticket').whereNotNull('client_id').orderBy('number').first('id', 'client_id', 'division_id');

describe('the log of events', () => {
  it('is read by a reader from its own place: all, each once, in one order', async () => {
    const { n } = (await world.knex('event').count('* as n').first()) as { n: number };
    const { read } = await until('all is read', async () => {
      const all = await readAll();
      return all.read.length >= n && all;
    });
    expect(new Set(read.map((e) => e.id)).size).toBe(read.length);
    expect(read.every((e) => EVENT_TYPES.some((type) => type === e.type))).toBe(true);
  });

  it('loses nothing to a reader who reads while somebody still writes', async () => {
    const { place } = await readAll();
    const ticket = await aTicket();
    const slow = await world.knex.transaction();
    const early = await makeWork({ tx: slow, now: STORY, actor: byJob('slow'), book }).tell('ticket.resolution-written', ticket.id, {});
    const late = await world.knex.transaction((tx) =>
      makeWork({ tx, now: STORY, actor: byJob('swift'), book }).tell('ticket.triage-taken-back', ticket.id, {}),
    );
    // What was written later stays back while what was begun before it is open.
    const meanwhile = await readAll(place);
    const both = (e: EventWire) => e.id === early || e.id === late;
    expect(meanwhile.read.filter(both)).toEqual([]);
    await slow.commit();
    const read = await readUntil(meanwhile.place, both);
    expect(read.map((e) => e.id)).toEqual([early, late]);
  });

  it('carries ticket, client and division, who and by which way, and what led to it', async () => {
    const ticket = await aTicket();
    const rule = { id: '00000000-0000-4000-8000-00000000000a', name: 'Backups' };
    const first = await world.knex.transaction(async (tx) => {
      const work = makeWork({ tx, now: STORY, actor: byJob('sweep'), book });
      const cause = await work.tell('ticket.resolution-written', ticket.id, {});
      await workAs({ ...work, cause }, byRule(rule, 'mail')).tell('ticket.estimate-set', ticket.id, { minutes: 15 });
      return cause;
    });
    const rows = await world.knex('event').where({ id: first }).orWhere({ cause_id: first }).orderBy('id');
    const same = {
      subject: 'ticket',
      subject_id: ticket.id,
      ticket_id: ticket.id,
      client_id: ticket.client_id,
      division_id: ticket.division_id,
    };
    expect(rows).toMatchObject([
      { id: first, type: 'ticket.resolution-written', who: 'job', who_id: null, who_name: 'sweep', via: 'job', cause_id: null, ...same },
      { type: 'ticket.estimate-set', data: { minutes: 15 }, who: 'rule', who_id: rule.id, who_name: 'Backups', via: 'mail', ...same },
    ]);
  });

  it.each([
    ['booking', 'booking.moved', 'booking'],
    ['entry', 'entry.approved', 'time_entry'],
    ['charge', 'charge.approved', 'charge'],
  ] as const)('knows the ticket, client and division of a %s', async (record, type, table) => {
    const own = await world
      .knex(`${table} as o`)
      .join('ticket as t', 't.id', 'o.ticket_id')
      .whereNotNull('t.client_id')
      .first('o.id', 't.id as ticket_id', 't.client_id', 't.division_id');
    const id = await world.knex.transaction((tx) =>
      makeWork({ tx, now: STORY, actor: byJob('test'), book }).tell(type, own.id, { reason: null, remark: null }),
    );
    const [e] = await world.knex('event').where({ id });
    expect([e.subject, e.subject_id, e.ticket_id, e.client_id, e.division_id]).toEqual([
      record,
      own.id,
      own.ticket_id,
      own.client_id,
      own.division_id,
    ]);
  });

  it.each([
    ['client', 'client.put-away', 'client', 'id'],
    ['contact', 'contact.put-away', 'contact', 'client_id'],
    ['asset', 'asset.put-away', 'asset', 'client_id'],
  ] as const)('knows the client and division of a %s', async (record, type, table, column) => {
    const own = await world.knex(table).whereNotNull(column).first('id', `${column} as client_id`);
    const client = await world.knex('client').where({ id: own.client_id }).first('division_id');
    const id = await world.knex.transaction((tx) => makeWork({ tx, now: STORY, actor: byJob('test'), book }).tell(type, own.id, {}));
    const [e] = await world.knex('event').where({ id });
    expect([e.subject, e.ticket_id, e.client_id, e.division_id]).toEqual([record, null, own.client_id, client.division_id]);
  });

  it('is open to those who read Setup, by pages of their size, and refuses a place that is none', async () => {
    const aoife = await world.as('Aoife Brannigan');
    const first = await aoife.do('readEvents', { query: { most: '3' } });
    const next = await aoife.do('readEvents', { query: { most: '3', after: first.place! } });
    expect([first.events.length, next.events.length, next.events[0]!.id === first.events[2]!.id]).toEqual([3, 3, false]);
    expect((await aoife.ask('readEvents', { query: { after: 'yesterday' } })).status).toBe(422);
    const ngozi = await world.as('Ngozi');
    expect((await ngozi.ask('readEvents')).status).toBe(403);
  });

  it('can only be added to', async () => {
    await expect(world.knex('event').update({ via: 'web' })).rejects.toThrow('append-only');
    await expect(world.knex('event').delete()).rejects.toThrow('append-only');
  });
});
