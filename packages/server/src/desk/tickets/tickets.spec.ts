import { randomUUID } from 'node:crypto';
import type { TicketRowWire, TicketWire } from '@core/desk';
import { type Script, startWorld, STORY, until, type World } from '../../../testing/test-server';

let world: World;
let manager: Script;
let desks: { id: string; name: string }[];
beforeAll(async () => {
  world = await startWorld();
  manager = await world.as('Aoife');
  ({ desks } = await manager.do('getHouse'));
});
afterAll(() => world.stop());

let categoryId: string;
beforeAll(async () => {
  categoryId = (await world.knex('category').where({ name: 'Connections' }).first('id')).id;
});
const unsorted = async (): Promise<TicketRowWire[]> => (await manager.do('listTickets', { query: { state: 'unsorted' } })).rows;
const read = (ticketId: string): Promise<TicketWire> => manager.do('getTicket', { params: { ticketId } });
const support = () => desks.find((d) => d.name === 'Support')!;
const triageBody = (t: { clientId: string | null }, more: object = {}) => ({
  impact: 'several',
  urgency: 'stopped',
  kind: 'incident',
  deskId: support().id,
  line: 'first',
  categoryId,
  clientId: t.clientId,
  contactId: null,
  assetId: null,
  assigneeId: null,
  ...more,
});

/** How the mail server behaves from now on. */
const mode = (m: string) =>
  fetch(`http://127.0.0.1:${world.mail.httpPort}/switch`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ mode: m }),
  });

describe('tickets', () => {
  it('shows seven unsorted messages, the most pressing first', async () => {
    const list = await unsorted();
    expect(list).toHaveLength(7);
    expect(list.map((t) => t.dueAt)).toEqual([...list.map((t) => t.dueAt)].sort());
    expect(list[0]!.subject).toBe('Label printer at Northgate prints blank');
  });

  it('promises on the pad what triage then sets', async () => {
    const [t] = await unsorted();
    const pad = await manager.do('getTicketPad', { params: { ticketId: t!.id } });
    const cell = pad.cells.find((c) => c.impact === 'several' && c.urgency === 'stopped')!;
    const done = await manager.do('triageTicket', { params: { ticketId: t!.id }, version: t!.version, body: triageBody(t!) });
    const now = await read(t!.id);
    expect([now.status, now.priority, now.desk]).toEqual(['queued', cell.priority, 'Support']);
    const due = (clock: string) => now.clocks.find((c) => c.clock === clock)!.dueAt;
    expect([due('response'), due('resolution')]).toEqual([cell.responseDue, cell.resolutionDue]);
    expect(now.clocks.find((c) => c.clock === 'triage')!.state).toBe('met');
    expect(now.story.at(-1)).toMatchObject({ who: 'Aoife Brannigan', what: 'routed to Support as incident, Connections, P2' });
    await manager.do('untriageTicket', { params: { ticketId: t!.id }, version: done.version });
    const back = await read(t!.id);
    expect([back.kind, back.clocks.find((c) => c.clock === 'triage')!.state, back.dueAt]).toEqual(['unsorted', 'running', t!.dueAt]);
  });

  it('refuses what somebody else changed meanwhile, and what names no version', async () => {
    const [, t] = await unsorted();
    await manager.do('markNotWork', { params: { ticketId: t!.id }, version: t!.version });
    const late = await manager.ask('triageTicket', { params: { ticketId: t!.id }, version: t!.version, body: triageBody(t!) });
    expect([late.status, (late.body as { type: string }).type]).toEqual([412, 'urn:drumline:problem:changed-meanwhile']);
    expect((await manager.ask('markNotWork', { params: { ticketId: t!.id } })).status).toBe(428);
    const gone = await read(t!.id);
    expect([gone.status, gone.outcome]).toEqual(['closed', 'not work']);
    await manager.do('restoreTicket', { params: { ticketId: t!.id }, version: gone.version });
    expect((await unsorted()).map((u) => u.id)).toContain(t!.id);
  });

  it('carries a command out once for a key, however often and however many at once it is sent', async () => {
    const [t] = await unsorted();
    const key = randomUUID();
    const answers = await Promise.all(
      Array.from({ length: 5 }, () => manager.do('addNote', { params: { ticketId: t!.id }, body: { text: 'once' }, key })),
    );
    expect(new Set(answers.map((a) => a.id)).size).toBe(1);
    expect((await read(t!.id)).messages.filter((m) => m.text === 'once')).toHaveLength(1);
    const other = await manager.ask('addNote', { params: { ticketId: t!.id }, body: { text: 'twice' }, key });
    expect([other.status, (other.body as { type: string }).type]).toEqual([409, 'urn:drumline:problem:already-used']);
    const keyless = await manager.ask('addNote', { params: { ticketId: t!.id }, body: { text: 'no key' }, key: '' });
    expect(keyless.status).toBe(400);
  });

  it('lets a reply leave by mail, threads it, and counts it when it has left', async () => {
    const [t] = await unsorted();
    await manager.do('triageTicket', { params: { ticketId: t!.id }, version: (await read(t!.id)).version, body: triageBody(t!) });
    const before = await read(t!.id);
    world.clock.forward(300);
    await manager.do('replyToTicket', {
      params: { ticketId: t!.id },
      body: {
        text: 'On my way.',
        cc: [],
        then: 'underway',
        seenMessageId: before.messages.filter((m) => m.visibility === 'public').at(-1)!.id,
      },
    });
    const now = await until('the reply has left', async () => {
      const seen = await read(t!.id);
      return seen.status === 'underway' && seen;
    });
    expect(now.clocks.find((c) => c.clock === 'response')).toMatchObject({
      state: 'met',
      endedAt: new Date((STORY + 300) * 1000).toISOString().replace('.000', ''),
    });
    const sent = await world.mailbox();
    const mail = sent.find((m) => m.text.includes('On my way.'))!;
    const original = await world.knex('message').where({ ticket_id: t!.id, direction: 'in' }).first('message_id');
    expect(mail).toMatchObject({ inReplyTo: original.message_id, to: ['orla.devane@hollin.example'] });
    expect(mail.subject).toMatch(new RegExp(`^Re: Label printer at Northgate prints blank \\(ref ${t!.number}-[a-z2-9]{6}\\)$`));
  });

  it('tells the writer when somebody else wrote meanwhile, before anything is sent', async () => {
    const t = (await manager.do('listTickets', { query: { owed: 'yes' } })).rows[0]!;
    const answer = await manager.ask('replyToTicket', {
      params: { ticketId: t.id },
      body: { text: 'late', cc: [], then: null, seenMessageId: randomUUID() },
    });
    expect(answer.status).toBe(412);
    expect((await read(t.id)).messages.some((m) => m.text === 'late')).toBe(false);
  });

  it('keeps a reply while the mail server refuses, shows why, and sends it once it takes mail again', async () => {
    const t = (await manager.do('listTickets', { query: { owed: 'yes' } })).rows[0]!;
    await mode('refuse');
    await manager.do('replyToTicket', { params: { ticketId: t.id }, body: { text: 'patience', cc: [], then: null, seenMessageId: null } });
    const job = await until('the failed job in Setup', async () =>
      (await manager.do('listJobs')).jobs.find((j) => j.task === 'send-message' && j.trouble),
    );
    expect(job.trouble).toContain('refused by the stand-in');
    const waiting = (await read(t.id)).messages.find((m) => m.text === 'patience')!;
    expect([waiting.leavesAt !== null, waiting.trouble]).toEqual([true, expect.stringContaining('refused')]);
    expect((await read(t.id)).replyOwedSince).not.toBeNull();
    await mode('normal');
    await manager.ask('retryJob', { params: { jobId: job.id } });
    await until('it has left', async () => (await read(t.id)).replyOwedSince === null);
  });

  it('holds nothing while a slow mail server takes a reply, which is not taken back then', async () => {
    const t = (await manager.do('listTickets', { query: { owed: 'yes' } })).rows[0]!;
    await mode('slow');
    const body = { text: 'slowly', cc: [], then: null, seenMessageId: null };
    const { id } = await manager.do('replyToTicket', { params: { ticketId: t.id }, body });
    const row = () => world.knex('message').where({ id }).first('leaving_since', 'left_at');
    await until('it is leaving', async () => (await row()).leaving_since !== null);
    await world.knex.transaction((tx) => tx('message').where({ id }).forUpdate().noWait().first('id'));
    const back = await manager.ask('takeBackReply', { params: { messageId: id } });
    expect(back.body).toMatchObject({ status: 409, detail: expect.stringContaining('leaving now') });
    expect((await row()).left_at).toBeNull();
    await until('it has left', async () => (await row()).left_at !== null);
    await mode('normal');
  });

  it('takes a reply back before it leaves, and not after', async () => {
    const slow = await startWorld({ REPLY_WAIT_SECONDS: 60 });
    try {
      const script = await slow.as('Deepa');
      const t = (await script.do('listTickets', { query: { owed: 'yes' } })).rows[0]!;
      const reply = await script.do('replyToTicket', {
        params: { ticketId: t.id },
        body: { text: 'oh no', cc: [], then: null, seenMessageId: null },
      });
      expect(await script.do('takeBackReply', { params: { messageId: reply.id } })).toEqual({ text: 'oh no' });
      expect(await slow.knex('graphile_worker.jobs').where({ task_identifier: 'send-message' })).toHaveLength(0);
      const seen = await script.do('getTicket', { params: { ticketId: t.id } });
      expect(seen.messages.find((m) => m.text === 'oh no')).toMatchObject({ takenBack: true, leavesAt: null });
      expect(seen.replyOwedSince).not.toBeNull();
      const left = await slow.knex('message').where({ direction: 'out' }).whereNotNull('left_at').first('id');
      expect((await script.ask('takeBackReply', { params: { messageId: left.id } })).status).toBe(409);
    } finally {
      await slow.stop();
    }
  });

  it('holds the resolution clock on hold, and moves its target with the priority', async () => {
    const t = await manager.do('listTickets', { query: { status: 'underway' } }).then((a) => read(a.rows[0]!.id));
    const held = await manager.do('setTicketStatus', {
      params: { ticketId: t.id },
      version: t.version,
      body: { status: 'on hold', holdReason: 'supplier' },
    });
    const elapsed = (await read(t.id)).clocks.find((c) => c.clock === 'resolution')!.elapsed;
    world.clock.forward(3600);
    expect((await read(t.id)).clocks.find((c) => c.clock === 'resolution')).toMatchObject({
      state: 'holding',
      holdReason: 'supplier',
      elapsed,
    });
    const again = await manager.do('setTicketStatus', {
      params: { ticketId: t.id },
      version: held.version,
      body: { status: 'underway', holdReason: null },
    });
    const edit = await manager.do('editTicket', {
      params: { ticketId: t.id },
      version: again.version,
      body: {
        subject: t.subject,
        clientId: t.clientId,
        contactId: t.contactId,
        assetId: t.assetId,
        categoryId: t.categoryId,
        impact: 'one',
        urgency: 'can wait',
      },
    });
    const after = await read(t.id);
    expect([edit.version > again.version, after.priority, after.clocks.find((c) => c.clock === 'resolution')!.target]).toEqual([
      true,
      'P4',
      2400 * 60,
    ]);
    expect(
      (
        await manager.ask('setTicketStatus', {
          params: { ticketId: t.id },
          version: after.version,
          body: { status: 'new', holdReason: null },
        })
      ).status,
    ).toBe(409);
  });

  it('opens a ticket for a caller with the first reply met at its receipt', async () => {
    const client = (await manager.do('listClients')).rows.find((c) => c.name === 'Saltmarsh Ceramics')!;
    const { contacts } = await manager.do('getClient', { params: { clientId: client.id } });
    const t = await manager.do('createTicket', {
      body: { clientId: client.id, contactId: contacts[0]!.id, subject: 'Kiln will not talk', text: 'They rang.', byCall: true },
    });
    expect((await read(t.id)).clocks.find((c) => c.clock === 'response')).toMatchObject({ state: 'met', elapsed: 0 });
    const stranger = (await manager.do('listClients')).rows.find((c) => c.id !== client.id)!;
    expect(
      (
        await manager.ask('createTicket', {
          body: { clientId: stranger.id, contactId: contacts[0]!.id, subject: 'x', text: 'x', byCall: false },
        })
      ).status,
    ).toBe(422);
  });

  it('pages a list by key without losing or repeating a row, and says how many there are', async () => {
    for (const sort of ['due', 'received', 'changed']) {
      const seen: string[] = [];
      for (let after: string | null | undefined; after !== null;) {
        const page: { rows: TicketRowWire[]; next: string | null; count: number } = await manager.do('listTickets', {
          query: { state: 'all', sort, ...(after ? { after } : {}) },
        });
        seen.push(...page.rows.map((t) => t.id));
        after = page.next;
        if (after === null) expect(seen).toHaveLength(page.count);
      }
      expect(new Set(seen).size).toBe(seen.length);
      expect(seen).toHaveLength(Number((await world.knex('ticket').count('* as n').first())!['n']));
    }
  });

  it('stores just what a replay of the facts gives, for every ticket', async () => {
    const rows = await world
      .knex('ticket_clock as k')
      .join('ticket as t', 't.id', 'k.ticket_id')
      .whereIn('k.state', ['met', 'missed and ended'])
      .select('k.*');
    const byTicket = new Map<string, typeof rows>();
    for (const row of rows) byTicket.set(row.ticket_id, [...(byTicket.get(row.ticket_id) ?? []), row]);
    for (const [ticketId, clocks] of [...byTicket].slice(0, 60)) {
      const seen = await read(ticketId);
      for (const row of clocks)
        expect(seen.clocks.find((c) => c.clock === row.clock)).toMatchObject({
          state: row.state,
          elapsed: row.elapsed_seconds,
          target: row.target_seconds,
        });
    }
  });

  it('finds by number, words, names and addresses, and shows money only to those who may see it', async () => {
    const [t] = await unsorted();
    expect((await manager.do('search', { query: { q: `#${t!.number}` } })).hits[0]).toMatchObject({ kind: 'ticket', id: t!.id });
    expect((await manager.do('search', { query: { q: 'orla.devane' } })).hits.some((h) => h.kind === 'contact')).toBe(true);
    expect((await manager.do('search', { query: { q: 'HV-PRN-003' } })).hits.some((h) => h.kind === 'asset')).toBe(true);
    const technician = await world.as('Deepa');
    expect((await technician.do('search', { query: { q: 'PH-' } })).hits.some((h) => h.kind === 'invoice')).toBe(false);
    expect((await manager.ask('search', { query: { q: '' } })).status).toBe(422);
  });

  it.each([
    ['on hold', { status: 'on hold', holdReason: 'supplier' }],
    ['resolved', { status: 'resolved', holdReason: null, override: 'seen by phone' }],
  ])('gives back exactly what was when that it is %s is undone: a booked one is booked, with its clocks', async (_, body) => {
    const booked = await world.knex('ticket').where({ status: 'booked', umbrella_id: null }).orderBy('number').first('id');
    const move = { override: null, ownStatusId: null, time: null, ...body };
    const standing = async () => {
      const t = await read(booked.id);
      const row = await world.knex('ticket').where({ id: t.id }).first('resolved_at', 'closed_at', 'closes_at', 'outcome', 'own_status_id');
      // The minute that goes by counts as if it had never been held or resolved.
      const clocks = t.clocks.map((c) => [c.clock, c.state, c.dueAt, c.holding, c.missedAt]);
      return { status: t.status, holdReason: t.holdReason, clocks, dueAt: t.dueAt, bookings: t.bookings, ...row };
    };
    const before = await standing();
    const params = { ticketId: booked.id };
    const moved = await manager.do('setTicketStatus', { params, version: (await read(booked.id)).version, body: move });
    world.clock.forward(60);
    const other = await (await world.as('Tomasz')).ask('undoTicketMove', { params, version: moved.version });
    expect(other.status).toBe(403);
    const undone = await manager.do('undoTicketMove', { params, version: moved.version });
    const after = await standing();
    expect(after).toEqual(before);
    expect((await read(booked.id)).story.at(-1)!.what).toBe(`undid that it was ${body.status}: booked again`);
    expect((await manager.ask('undoTicketMove', { params, version: undone.version })).status).toBe(409);
  });

  it('shows the newest of a talk and of a story that are too long, and says how many came before', async () => {
    const { id } = await world.knex('ticket').where({ status: 'queued', umbrella_id: null }).orderBy('number').first('id');
    const before = await read(id);
    const had = before.messages.length;
    const at = new Date((STORY + 7200) * 1000);
    const message = { ticket_id: id, at, direction: 'in', visibility: 'public', author_name: 'Orla Devane' };
    await world.knex('message').insert(Array.from({ length: 1000 }, (_, n) => ({ ...message, text: `line ${n}` })));
    const { n } = (await world.knex('event').where({ ticket_id: id }).count('* as n').first()) as { n: number };
    const event = { type: 'ticket.resolution-written', version: 1, data: {}, subject: 'ticket', subject_id: id, ticket_id: id };
    const by = { happened_at: at, who: 'job', who_name: 'test', via: 'job' };
    await world.knex('event').insert(Array.from({ length: 500 }, () => ({ ...event, ...by })));
    const long = await read(id);
    expect([long.earlierMessages, long.messages.length, long.messages.at(-1)!.text]).toEqual([had, 1000, 'line 999']);
    expect([long.story.length, long.story[0]!.what]).toEqual([501, `keeps ${n} earlier events, which are not shown here`]);
    const query = { message: long.messages[0]!.id, event: long.story[1]!.id! };
    const earlier = await manager.do('getEarlier', { params: { ticketId: id }, query });
    expect(earlier.messages.map((m) => m.id)).toEqual(before.messages.map((m) => m.id));
    expect(earlier.story).toEqual(before.story);
    const none = await manager.do('getEarlier', { params: { ticketId: id }, query: { message: earlier.messages[0]!.id } });
    expect(none).toEqual({ messages: [], story: [] });
  });
});
