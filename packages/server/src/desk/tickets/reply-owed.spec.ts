import type { TicketWire } from '@core/desk';
import { startWorld, until, type Script, type World, postMail } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let deepa: Script;
beforeAll(async () => {
  world = await startWorld();
  [aoife, deepa] = [await world.as('Aoife'), await world.as('Deepa')];
});
afterAll(() => world.stop());

let mails = 0;
const ORLA = 'Orla Devane <orla.devane@hollin.example>';
/** A mail of a client, in answer to what they were sent last where that is named. */
async function mail(subject: string, text: string, inReplyTo?: string): Promise<TicketWire> {
  const messageId = `<owed-${++mails}@hollin.example>`;
  await postMail(world.running.smtpPort, {
    messageId,
    from: ORLA,
    to: 'desk@pellworth.example',
    subject,
    text,
    ...(inReplyTo ? { inReplyTo, references: inReplyTo } : {}),
  });
  const row = await world.knex('message').where({ message_id: messageId }).first('ticket_id');
  return read(row.ticket_id);
}
const read = (ticketId: string): Promise<TicketWire> => aoife.do('getTicket', { params: { ticketId } });
async function sorted(subject: string): Promise<TicketWire> {
  const t = await mail(subject, 'The card reader refuses every card.');
  const desk = (await aoife.do('getHouse')).desks.find((d) => d.name === 'Support')!;
  const person = await world.knex('person').where({ name: 'Deepa Raghunathan' }).first('id');
  const category = await world.knex('category').where({ name: 'Doors and sensors' }).first('id');
  await aoife.do('triageTicket', {
    params: { ticketId: t.id },
    version: t.version,
    body: {
      impact: 'one',
      urgency: 'hampered',
      kind: 'service request',
      deskId: desk.id,
      line: 'first',
      categoryId: category.id,
      clientId: t.clientId,
      contactId: t.contactId,
      assetId: null,
      assigneeId: person.id,
    },
  });
  return read(t.id);
}
/** Deepa answers, and the answer leaves. */
async function answer(ticketId: string, text = 'Please try the second reader.'): Promise<string> {
  const { id } = await deepa.do('replyToTicket', { params: { ticketId }, body: { text, cc: [], then: null, seenMessageId: null } });
  return until('the reply left', async () => {
    const m = await world.knex('message').where({ id }).whereNotNull('left_at').first('message_id');
    return m?.message_id as string | undefined;
  });
}
const clock = (t: TicketWire, name: string) => t.clocks.find((c) => c.clock === name);

describe('a reply that is owed', () => {
  it('is owed from the moment the ticket is sorted, since the client wrote, and says who waits', async () => {
    const unsorted = await mail('Reader', 'It refuses cards.');
    expect(unsorted.replyOwedSince).toBeNull();
    world.clock.forward(600);
    const t = await sorted('Reader two');
    expect([t.replyOwedSince, t.replyOwedBy, t.owedWorkingSeconds]).toEqual([t.receivedAt, 'Orla Devane', 0]);
    world.clock.forward(900);
    expect((await read(t.id)).owedWorkingSeconds).toBe(900);
  });

  it('ends with a reply that left, never with a note, a status or an assignment', async () => {
    const t = await sorted('Reader three');
    await deepa.do('addNote', { params: { ticketId: t.id }, body: { text: 'Looking at it' } });
    const moved = await deepa.do('setTicketStatus', {
      params: { ticketId: t.id },
      version: (await read(t.id)).version,
      body: { status: 'underway', holdReason: null },
    });
    await deepa.do('assignTicket', { params: { ticketId: t.id }, version: moved.version, body: { personId: null } });
    expect((await read(t.id)).replyOwedSince).not.toBeNull();
    await answer(t.id);
    expect((await read(t.id)).replyOwedSince).toBeNull();
  });

  it('is counted by desk and by person, the longest waiting first', async () => {
    const owed = await aoife.do('getOwed');
    const { rows } = await aoife.do('listTickets', { query: { owed: 'yes', sort: 'owed', most: '1000' } });
    expect(owed.desks.reduce((a, d) => a + d.count, 0)).toBe(rows.length);
    expect(owed.people.reduce((a, p) => a + p.count, 0)).toBe(rows.length);
    expect(rows.map((r) => r.replyOwedSince)).toEqual(rows.map((r) => r.replyOwedSince).sort());
    expect(owed.desks.map((d) => d.oldest)).toEqual(owed.desks.map((d) => d.oldest).sort());
  });

  it('is waived with a reason, on record, and taken back once', async () => {
    const t = await sorted('Reader four');
    const empty = await deepa.ask('waiveReply', { params: { ticketId: t.id }, body: { reason: ' ' } });
    expect([empty.status, (empty.body as { fields: object }).fields]).toEqual([422, { reason: 'write something' }]);
    await deepa.do('waiveReply', { params: { ticketId: t.id }, body: { reason: 'told them at the counter' } });
    const waived = await read(t.id);
    expect([waived.replyOwedSince, waived.waived]).toEqual([
      null,
      { at: expect.any(String), who: 'Deepa Raghunathan', reason: 'told them at the counter', thanks: false },
    ]);
    expect((await deepa.ask('waiveReply', { params: { ticketId: t.id }, body: { reason: 'again' } })).status).toBe(409);
    await deepa.do('unwaiveReply', { params: { ticketId: t.id } });
    const back = await read(t.id);
    expect([back.replyOwedSince, back.waived]).toEqual([t.replyOwedSince, null]);
    expect((await deepa.ask('unwaiveReply', { params: { ticketId: t.id } })).status).toBe(409);
    await expect(world.knex('waiver').delete()).rejects.toThrow('append-only');
  });
});

describe('thanks', () => {
  const resolve = async (t: TicketWire) =>
    aoife.do('setTicketStatus', {
      params: { ticketId: t.id },
      version: (await read(t.id)).version,
      body: { status: 'resolved', holdReason: null, override: 'nothing to log in this test' },
    });

  it('reopen nothing and owe nothing, and are taken back into a reopened ticket that owes a reply', async () => {
    const t = await sorted('Reader five');
    const ours = await answer(t.id);
    await resolve(t);
    world.clock.forward(1800);
    const thanked = await mail('Re: Reader five', 'Perfect, thank you!\n\nOrla', ours);
    expect([thanked.id, thanked.status, thanked.replyOwedSince]).toEqual([t.id, 'resolved', null]);
    expect(thanked.waived).toMatchObject({ who: 'Orla Devane', reason: 'plainly thanks', thanks: true });
    expect(thanked.messages.at(-1)).toMatchObject({ thanks: true, fromClient: true });
    const at = thanked.messages.at(-1)!.at;
    world.clock.forward(7200);
    await aoife.do('unwaiveReply', { params: { ticketId: t.id } });
    const again = await read(t.id);
    expect([again.status, again.replyOwedSince]).toEqual(['queued', at]);
    // It reopened as of the reply: the two hours since then count.
    expect(clock(again, 'resolution')!.elapsed).toBeGreaterThanOrEqual(7200);
  });

  it('that ask for more reopen the ticket and owe a reply', async () => {
    const t = await sorted('Reader six');
    const ours = await answer(t.id);
    await resolve(t);
    const asked = await mail('Re: Reader six', 'Thanks, but the second one refuses cards too.', ours);
    expect([asked.status, asked.replyOwedBy, asked.waived]).toEqual(['queued', 'Orla Devane', null]);
  });
});

describe('a reply to a closed ticket', () => {
  it('reopens it within the days set, and opens a new one linked to it after that', async () => {
    const t = await sorted('Reader seven');
    const ours = await answer(t.id);
    await aoife.do('setTicketStatus', {
      params: { ticketId: t.id },
      version: (await read(t.id)).version,
      body: { status: 'resolved', holdReason: null, override: 'nothing to log in this test' },
    });
    const { closesAt } = await read(t.id);
    world.clock.forward(Date.parse(closesAt!) / 1000 - world.clock.now() - 1);
    expect((await read(t.id)).status).toBe('resolved');
    world.clock.forward(1);
    await until('it closed by itself', async () => (await read(t.id)).status === 'closed');
    expect((await read(t.id)).story.at(-1)).toMatchObject({ who: 'Drumline', what: 'closed' });
    world.clock.forward(15 * 86_400);
    const later = await mail('Re: Reader seven', 'It refuses cards again.', ours);
    expect(later.id).not.toBe(t.id);
    expect([later.kind, later.linked?.id]).toEqual(['unsorted', t.id]);
    expect(JSON.stringify(later.threadingWhy)).toContain('closed too long ago');
    const thanks = await mail('Re: Reader seven', 'Thanks again!', ours);
    expect([thanks.id, thanks.status]).toEqual([t.id, 'closed']);
  });
});

describe('a call', () => {
  it('counts as public contact where the two spoke, at the time it was', async () => {
    const t = await sorted('Reader eight');
    world.clock.forward(3600);
    const at = new Date((world.clock.now() - 1800) * 1000).toISOString().replace('.000', '');
    await deepa.do('writeCall', {
      params: { ticketId: t.id },
      body: { way: 'out', outcome: 'spoke', text: 'She tries the second reader.', at, callBackAt: null },
    });
    const now = await read(t.id);
    expect([clock(now, 'response')!.state, clock(now, 'response')!.endedAt]).toEqual(['met', at]);
    expect([now.replyOwedSince, clock(now, 'update')!.state, clock(now, 'update')!.elapsed]).toEqual([null, 'running', 1800]);
    expect(now.messages.at(-1)).toMatchObject({ callOutcome: 'spoke', visibility: 'public', author: 'Deepa Raghunathan' });
    expect(now.story.at(-1)!.what).toBe('spoke with Orla Devane, written down later');
  });

  it('counts for nothing where it reached nobody, but is shown, and can put a call on the day', async () => {
    const t = await sorted('Reader nine');
    const callBackAt = new Date((world.clock.now() + 3600) * 1000).toISOString().replace('.000', '');
    await deepa.do('writeCall', {
      params: { ticketId: t.id },
      body: { way: 'out', outcome: 'nobody', text: 'Rang twice.', at: null, callBackAt },
    });
    const now = await read(t.id);
    expect([now.replyOwedSince === null, clock(now, 'response')!.state, clock(now, 'update')]).toEqual([false, 'running', undefined]);
    expect(now.messages.at(-1)).toMatchObject({ callOutcome: 'nobody', visibility: 'inside', text: 'Rang twice.' });
    expect(now.checklist).toMatchObject([{ text: 'Call Orla Devane back', owner: 'Deepa Raghunathan', dueAt: callBackAt }]);
  });

  it('is refused before the receipt and after now, naming what is allowed', async () => {
    const t = await sorted('Reader ten');
    const ask = async (seconds: number) => {
      const at = new Date((world.clock.now() + seconds) * 1000).toISOString().replace('.000', '');
      const body = { way: 'in', outcome: 'spoke', text: 'x', at, callBackAt: null };
      const { status, body: answer } = await deepa.ask('writeCall', { params: { ticketId: t.id }, body });
      return [status, (answer as { fields?: Record<string, string> }).fields?.['at']];
    };
    expect(await ask(60)).toEqual([422, 'a time that has passed']);
    expect(await ask(-86_400)).toEqual([422, 'a time after the receipt']);
  });
});

describe('a warning before a miss', () => {
  it('comes once at the percentage of the promise, to who has the ticket', async () => {
    const t = await sorted('Reader eleven');
    const { target, percent, dueAt } = clock(t, 'response')!;
    expect(percent).toBe(0);
    // A quarter of the target is left, less a second.
    world.clock.forward(Date.parse(dueAt!) / 1000 - world.clock.now() - Math.floor(target / 4) + 1);
    const mine = async () => (await deepa.do('listNotices')).notices.filter((n) => n.ticketId === t.id);
    await until('the warning', async () => (await mine()).length > 0);
    world.clock.forward(60);
    await new Promise((done) => setTimeout(done, 5000));
    expect((await mine()).map((n) => n.text)).toEqual([
      expect.stringMatching(/Reader eleven: response is due in .*: 75 % of the promise is used/),
    ]);
    expect((await deepa.do('listNotices')).unseen).toBeGreaterThan(0);
    await deepa.do('seeNotices');
    expect((await deepa.do('listNotices')).unseen).toBe(0);
    expect((await aoife.do('listNotices')).notices.filter((n) => n.ticketId === t.id)).toEqual([]);
  });
});

describe('what falls due by time alone', () => {
  it('is done once, however many processes look for it', async () => {
    await world.second();
    await world.second();
    const t = await sorted('Reader twelve');
    const { target, dueAt } = clock(t, 'response')!;
    const closes = await sorted('Reader thirteen');
    await aoife.do('setTicketStatus', {
      params: { ticketId: closes.id },
      version: closes.version,
      body: { status: 'resolved', holdReason: null, override: 'nothing to log in this test' },
    });
    world.clock.forward(Date.parse(dueAt!) / 1000 - world.clock.now() - Math.floor(target / 4) + 1);
    await until('the warning', async () => world.knex('notice').where({ ticket_id: t.id }).first('id'));
    const at = (await read(closes.id)).closesAt!;
    world.clock.forward(Date.parse(at) / 1000 - world.clock.now());
    await until('it closed', async () => (await read(closes.id)).status === 'closed');
    await new Promise((done) => setTimeout(done, 4500));
    expect(await world.knex('notice').where({ ticket_id: t.id }).count('* as n').first()).toEqual({ n: 1 });
    const closed = (await read(closes.id)).story.filter((s) => s.what === 'closed');
    expect(closed.length).toBe(1);
  });
});

describe('what lists sort by', () => {
  it('is what the facts say: rebuilding it finds no difference', async () => {
    const now = world.clock.now();
    const tickets = await world.knex('ticket').whereNot({ kind: 'unsorted' }).select('id', 'reply_owed_since', 'status');
    for (const t of tickets.filter((_, i) => i % 5 === 0)) {
      const shown = await read(t.id);
      const stored = await world.knex('ticket_clock').where({ ticket_id: t.id });
      for (const c of shown.clocks) {
        const row = stored.find((r) => r.clock === c.clock)!;
        // Time alone may have missed it since; everything else is stored.
        const passed = row.due_at !== null && row.due_at < now;
        if (!passed)
          expect([t.id, c.clock, row.state, row.runs_met, row.runs_missed]).toEqual([t.id, c.clock, c.state, c.runsMet, c.runsMissed]);
      }
      expect(stored.length).toBe(shown.clocks.length);
    }
  });
});
