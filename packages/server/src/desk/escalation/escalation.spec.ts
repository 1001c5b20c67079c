import type { TicketWire } from '@core/desk';
import { startWorld, until, type Script, type World, postMail } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let yusuf: Script;
let ticketId: string;
let messageId: string;
let email: string;
beforeAll(async () => {
  world = await startWorld();
  [aoife, yusuf] = [await world.as('Aoife'), await world.as('Yusuf')];
  const row = await world
    .knex('ticket as t')
    .join('contact as k', 'k.id', 't.contact_id')
    .join('message as m', 'm.ticket_id', 't.id')
    .where({ 't.status': 'queued', 'm.direction': 'out', 'k.priority': false })
    .whereNull('t.umbrella_id')
    .whereNull('t.reply_owed_since')
    .first('t.id', 'k.email', 'm.message_id');
  [ticketId, email, messageId] = [row.id, row.email, row.message_id];
});
afterAll(() => world.stop());

const read = (): Promise<TicketWire> => aoife.do('getTicket', { params: { ticketId } });
const rung = async () => (await aoife.do('listEscalations', { params: { ticketId } })).escalations;
let sent = 0;
const write = (text: string, from = email) =>
  postMail(world.running.smtpPort, {
    from,
    to: 'desk@pellworth.example',
    subject: 'Re: it',
    inReplyTo: messageId,
    references: messageId,
    text,
    messageId: `<ring${++sent}@test.example>`,
  });
const mailsTo = async (to: string) => (await world.mailbox()).filter((m) => m.to.some((t) => t.includes(to)));

describe('escalation', () => {
  it('rings the on-call person by app and mail when a client writes again and again, once at every third', async () => {
    await write('Any news?');
    await write('Hello?');
    expect(await rung()).toEqual([]);
    await write('Is anybody there?');
    const [one, ...more] = await rung();
    expect([one!.person, one!.why, more]).toEqual(['Yusuf Demirel', 'they wrote 3 times without an answer', []]);
    await until('the mail left', async () => (await mailsTo('yusuf.demirel')).length === 1);
    const [mail] = await mailsTo('yusuf.demirel');
    expect([mail!.subject, mail!.text]).toEqual([
      expect.stringContaining('Ringing you: #'),
      expect.stringContaining(`/tickets/${ticketId}`),
    ]);
    await until('the record says so', async () => (await rung())[0]!.mailedAt !== null);
    const notices = (await yusuf.do('listNotices')).notices;
    expect(notices[0]).toMatchObject({ ticketId, urgent: true });
    await write('And a fourth.');
    expect(await rung()).toHaveLength(1);
  });

  it('rings the managers where nobody took it, and nobody where somebody did', async () => {
    world.clock.forward(15 * 60);
    const both = await until('the manager is rung', async () => {
      const all = await rung();
      return all.length === 2 ? all : undefined;
    });
    expect(both[0]).toMatchObject({ person: 'Aoife Brannigan', why: 'nobody took it: they wrote 3 times without an answer' });
    await aoife.do('takeEscalation', { params: { ticketId } });
    expect((await rung())[0]!.takenAt).not.toBeNull();
    await write('Five.');
    await write('Six.');
    expect((await rung()).length).toBe(3);
    // Somebody who was not rung may take it too.
    await (await world.as('Deepa')).do('takeEscalation', { params: { ticketId } });
    expect((await rung()).every((r) => r.takenAt !== null)).toBe(true);
    world.clock.forward(20 * 60);
    await new Promise((r) => setTimeout(r, 4500));
    expect((await rung()).length).toBe(3);
  });

  it('is not asked for by an answer in between, nor by thanks', async () => {
    const { id } = await aoife.do('replyToTicket', {
      params: { ticketId },
      body: { text: 'We are on it.', cc: [], then: null, seenMessageId: null },
    });
    await until('it left', async () => world.knex('message').where({ id }).whereNotNull('left_at').first('id'));
    await write('When?');
    await write('Thank you!');
    expect((await rung()).length).toBe(3);
  });

  it('rings for a priority contact outside working hours at once', async () => {
    await world.knex('contact').where({ email }).update({ priority: true });
    world.clock.forward(10 * 3600);
    await write('The night ferry cannot board.');
    expect((await rung())[0]!.why).toBe('a priority contact wrote outside working hours');
    const before = (await rung()).length;
    await write('And the day ferry?');
    expect((await rung()).filter((r) => r.why.startsWith('a priority')).length).toBe(1);
    expect((await rung()).length - before).toBeLessThanOrEqual(1);
  });

  it('rings the managers where nobody is on call', async () => {
    await aoife.do('takeEscalation', { params: { ticketId } });
    await world.knex('on_call').delete();
    await write('Still not.');
    expect((await rung())[0]).toMatchObject({
      person: 'Aoife Brannigan',
      why: 'a priority contact wrote outside working hours',
      takenAt: null,
    });
  });
});

describe('third parties', () => {
  it('are marked, owe a look inside, and no reply to the client', async () => {
    const { id } = await aoife.do('replyToTicket', {
      params: { ticketId },
      body: { text: 'The part is ordered.', cc: ['parts@northquay.example'], then: null, seenMessageId: null },
    });
    await until('it left', async () => world.knex('message').where({ id }).whereNotNull('left_at').first('id'));
    expect((await read()).replyOwedSince).toBeNull();
    await write('The part ships on Friday.', 'parts@northquay.example');
    const t = await read();
    expect([t.replyOwedSince, t.look?.at, t.messages.at(-1)!.thirdParty, t.messages.at(-1)!.fromClient]).toEqual([
      null,
      'Northquay Distribution',
      'Northquay Distribution',
      false,
    ]);
    expect((await aoife.do('listTickets', { query: { look: 'yes' } })).rows.map((r) => r.id)).toEqual([ticketId]);
    await aoife.do('lookedAt', { params: { ticketId } });
    expect((await read()).look).toBeNull();
  });

  it('are refused where they are a client or there already, with what is allowed', async () => {
    const add = (address: string) => aoife.ask('addThirdParty', { body: { name: 'X', address } });
    for (const [address, why] of [
      ['hollin.example', 'hollin.example is the domain of Hollin Veterinary Group, a client.'],
      ['northquay.example', 'northquay.example is Northquay Distribution already.'],
    ] as const) {
      const no = await add(address);
      expect([no.status, (no.body as { detail: string }).detail]).toEqual([422, why]);
    }
    expect(((await add('not an address')).body as { fields: object }).fields).toEqual({
      address: 'a domain such as northquay.example, or one address',
    });
  });
});

describe('on call', () => {
  it('is kept by managers, with an end after its beginning', async () => {
    const { id } = await world.knex('person').where({ name: 'Sora Minegishi' }).first('id');
    const body = { personId: id, startsAt: '2026-11-28T08:00:00Z', endsAt: '2026-11-28T07:00:00Z' };
    expect(((await aoife.ask('addOnCall', { body })).body as { fields: object }).fields).toEqual({ endsAt: 'after it begins' });
    await aoife.do('addOnCall', { body: { ...body, endsAt: '2026-11-29T08:00:00Z' } });
    const [span] = (await aoife.do('getEscalationSetup')).onCall;
    expect(span).toMatchObject({ person: 'Sora Minegishi', startsAt: '2026-11-28T08:00:00Z' });
    await aoife.do('removeOnCall', { params: { onCallId: span!.id } });
    expect((await aoife.do('getEscalationSetup')).onCall).toEqual([]);
    expect((await yusuf.ask('addOnCall', { body })).status).toBe(403);
  });
});
