import type { PromiseTargets, PromiseWire, TicketWire } from '@core/desk';
import { startWorld, until, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
beforeAll(async () => {
  world = await startWorld();
  aoife = await world.as('Aoife');
});
afterAll(() => world.stop());

const promises = async () => (await aoife.do('listPromises')).promises;
const named = async (name: string): Promise<PromiseWire> => (await promises()).find((p) => p.name === name)!;
const at = (text: string) => `2026-11-${text}:00Z`;
const attempt = ({
  targets,
  events,
  now,
  clientId = null,
}: {
  readonly targets: PromiseTargets;
  readonly events: object[];
  readonly now: string;
  readonly clientId?: string | null;
}) => aoife.do('tryPromise', { body: { targets, clientId, events: events.map((e) => ({ priority: null, reason: null, ...e })), now } });
const faster = (targets: PromiseTargets): PromiseTargets => ({
  ...targets,
  resolution: { ...targets.resolution, P3: { ...targets.resolution.P3, minutes: 60 } },
});
const openTicket = (promiseId: string) =>
  world
    .knex('ticket as t')
    .join('promise_version as v', 'v.id', 't.promise_version_id')
    .where({ 'v.promise_id': promiseId, 't.status': 'queued', 't.priority': 'P3' })
    .orderBy('t.number', 'desc')
    .first('t.id');
const read = (ticketId: string): Promise<TicketWire> => aoife.do('getTicket', { params: { ticketId } });
const resolution = (t: TicketWire) => t.clocks.find((c) => c.clock === 'resolution')!;

describe('a try-out of a promise', () => {
  it('takes events in and gives clocks with their segments out, and stores nothing', async () => {
    const { targets } = await named('Standard');
    const before = await world.knex('idempotency_key').count('* as n').first();
    const { clocks } = await attempt({
      targets,
      events: [
        { at: at('24T09:00'), is: 'received' },
        { at: at('24T09:10'), is: 'routed' },
        { at: at('24T09:10'), is: 'priority', priority: 'P2' },
        { at: at('24T09:50'), is: 'public-contact' },
        { at: at('24T11:00'), is: 'held', reason: 'supplier' },
        { at: at('24T15:00'), is: 'runs' },
      ],
      now: at('24T16:00'),
    });
    expect(clocks.map((c) => [c.clock.clock, c.clock.state, c.clock.elapsed])).toEqual([
      ['triage', 'met', 600],
      ['response', 'met', 3000],
      ['update', 'running', 70 * 60 + 3600],
      ['resolution', 'running', 2 * 3600 + 3600],
    ]);
    expect(clocks[3]!.segments.map((s) => [s.did, s.from.slice(11, 16), s.to.slice(11, 16), s.seconds])).toEqual([
      ['ran', '09:00', '11:00', 7200],
      ['held', '11:00', '15:00', 0],
      ['ran', '15:00', '16:00', 3600],
    ]);
    expect(await world.knex('idempotency_key').count('* as n').first()).toEqual(before);
  });

  it('counts on the calendar of the client that is named', async () => {
    const { targets } = await named('Standard');
    const own = { ...targets, response: { ...targets.response, P3: { minutes: 60, on: 'client' as const } } };
    const ostrand = await world.knex('client').where({ name: 'Ostrand Observatory Trust' }).first('id', 'calendar_id');
    const events = [{ at: at('24T09:00'), is: 'received' }];
    const house = await attempt({ targets: own, events, now: at('24T09:30') });
    const theirs = await attempt({ targets: own, events, now: at('24T09:30'), clientId: ostrand.id });
    const due = (a: typeof house) => a.clocks.find((c) => c.clock.clock === 'response')!.clock.dueAt;
    expect(due(house)).toBe(at('24T10:00'));
    if (ostrand.calendar_id) expect(due(theirs)).not.toBe(due(house));
  });

  it('names what is wrong in it, by place', async () => {
    const { targets } = await named('Standard');
    const body = {
      targets: { ...targets, warnAt: [75, 50], triage: { minutes: 0, on: 'nowhere' } },
      clientId: null,
      events: [{ at: 'today', is: 'received', priority: null, reason: null }],
      now: at('24T10:00'),
    };
    const { status, body: answer } = await aoife.ask('tryPromise', { body });
    expect([status, (answer as { fields: object }).fields]).toEqual([
      422,
      {
        'targets.warnAt': 'percentages that rise, such as 50 and 75',
        'targets.triage.minutes': 'at least 1',
        'targets.triage.on': 'choose one of provider, client, round the clock',
        'events[0].at': expect.stringContaining('a time in UTC'),
      },
    ]);
  });
});

describe('a promise', () => {
  it('gets a next version; tickets that are open keep theirs', async () => {
    const promise = await named('Standard');
    const t = await openTicket(promise.id);
    const before = resolution(await read(t.id));
    const body = { name: promise.name, targets: faster(promise.targets), applyToOpen: false };
    const done = await aoife.do('editPromise', { params: { promiseId: promise.id }, version: promise.version, body });
    expect(done.version).toBe(promise.version + 1);
    expect(resolution(await read(t.id)).target).toBe(before.target);
    const stale = await aoife.ask('editPromise', { params: { promiseId: promise.id }, version: promise.version, body });
    expect(stale.status).toBe(412);
  });

  it('gives the new version to open tickets on purpose: what was counted stays, and what is over it is missed then', async () => {
    const promise = await named('Standard');
    const t = await openTicket(promise.id);
    const before = resolution(await read(t.id));
    expect(before.elapsed).toBeGreaterThan(3600);
    const body = { name: promise.name, targets: faster(promise.targets), applyToOpen: true };
    await aoife.do('editPromise', { params: { promiseId: promise.id }, version: promise.version, body });
    const now = new Date(world.clock.now() * 1000).toISOString().replace('.000', '');
    const after = await until('the ticket took it', async () => {
      const clock = resolution(await read(t.id));
      return clock.target === 3600 && clock;
    });
    expect(after.elapsed).toBe(before.elapsed);
    if (before.state === 'running') expect([after.state, after.missedAt]).toEqual(['missed and running', now]);
    expect(JSON.stringify(after.why)).toContain(`version ${promise.version + 1}: time counted stays, target changes`);
    const story = (await read(t.id)).story.at(-1)!;
    expect(story.what).toBe('took the new version of its promise');
    await until('none is left', async () => {
      const left = await world
        .knex('ticket as t')
        .join('promise_version as v', 'v.id', 't.promise_version_id')
        .where({ 'v.promise_id': promise.id })
        .where('v.version', '<', promise.version + 1)
        .whereNotIn('t.status', ['resolved', 'closed'])
        .first('t.id');
      return !left;
    });
  });

  it('is taken by new tickets at once, also in another process', async () => {
    const other = await world.second();
    const promise = await named('Standard');
    const targets = { ...promise.targets, triage: { minutes: 7, on: 'provider' as const } };
    await aoife.do('editPromise', {
      params: { promiseId: promise.id },
      version: promise.version,
      body: { name: promise.name, targets, applyToOpen: false },
    });
    const { createTransport } = await import('nodemailer');
    const sent = async (port: number, id: string) => {
      await until('the mail is taken', async () =>
        createTransport({ host: '127.0.0.1', port, secure: false, ignoreTLS: true })
          .sendMail({ messageId: id, from: 'who@nowhere.example', to: 'desk@pellworth.example', subject: id, text: 'x' })
          .then(() => true)
          .catch(() => false),
      );
      const row = await world.knex('message').where({ message_id: id }).first('ticket_id');
      return (await read(row.ticket_id)).clocks.find((c) => c.clock === 'triage')!.target;
    };
    expect(await sent(world.running.smtpPort, '<here@nowhere.example>')).toBe(420);
    expect(await sent(other.smtpPort, '<there@nowhere.example>')).toBe(420);
  });

  it('follows the client: a ticket moved to another takes their promise from then on', async () => {
    const strict = await named('Strict replies');
    const client = await world.knex('client').where({ promise_id: strict.id }).first('id');
    const opened = await openTicket((await named('Standard')).id);
    // Changes of one instant count as one: the move is an act of its own.
    world.clock.forward(60);
    const t = await read(opened.id);
    const contact = await world.knex('contact').where({ client_id: client.id }).first('id');
    await aoife.do('moveToClient', {
      params: { ticketId: t.id },
      version: t.version,
      body: { clientId: client.id, contactId: contact.id, seen: true },
    });
    const moved = await read(t.id);
    const kept = await world
      .knex('ticket as t')
      .join('promise_version as v', 'v.id', 't.promise_version_id')
      .where('t.id', t.id)
      .first('v.promise_id');
    expect(kept.promise_id).toBe(strict.id);
    // What was counted stays, and a clock that was missed keeps the target of its time.
    expect(resolution(moved).elapsed).toBe(resolution(t).elapsed);
    if (resolution(t).missedAt) expect(resolution(moved).target).toBe(resolution(t).target);
    else expect(JSON.stringify(resolution(moved).why)).toContain('promise Strict replies, version');
  });

  it('has a name that no other has, and is made only by who may', async () => {
    const { targets } = await named('Standard');
    const taken = await aoife.ask('createPromise', { body: { name: 'strict REPLIES', targets, applyToOpen: false } });
    expect([taken.status, (taken.body as { fields: object }).fields]).toEqual([409, { name: 'a name that no other promise has' }]);
    await aoife.do('createPromise', { body: { name: 'Slow and sure', targets, applyToOpen: false } });
    expect((await named('Slow and sure')).version).toBe(1);
    const deepa = await world.as('Deepa');
    expect((await deepa.ask('createPromise', { body: { name: 'Mine', targets, applyToOpen: false } })).status).toBe(403);
  });
});
