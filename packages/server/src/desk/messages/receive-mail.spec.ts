import { createHmac } from 'node:crypto';
import { connect } from 'node:net';
import fc from 'fast-check';
import { subjectWithToken } from '@core/desk';
import { startWorld, until, type World, postMail } from '../../../testing/test-server';
import { deliveryReport } from '../../../testing/delivery-report';
import { openDatabase } from '../../app/database';
import { receiveMail } from './receive-mail';

let world: World;
beforeAll(async () => (world = await startWorld()));
afterAll(() => world.stop());

const send = (mail: object, port = world.running.smtpPort) =>
  postMail(port, {
    from: 'Orla Devane <orla.devane@hollin.example>',
    to: 'desk@pellworth.example',
    ...mail,
  });
const take = (raw: string | Buffer, from = 'orla.devane@hollin.example') =>
  receiveMail(world.running.app, Buffer.from(raw), { from, to: ['desk@pellworth.example'] });
const head = (lines: string[], text = 'Hello') => [...lines, '', text].join('\r\n');
const ticketOf = (messageId: string) =>
  world
    .knex('message as m')
    .join('ticket as t', 't.id', 'm.ticket_id')
    .where('m.message_id', messageId)
    .first('t.*', 'm.html', 'm.text', 'm.id as mid', 'm.automatic', 'm.left_out', 'm.notice');
const RULE = {
  sender: '',
  subject: '',
  header: '',
  headerHolds: '',
  does: 'route',
  reason: null,
  kind: null,
  impact: null,
  urgency: null,
  line: null,
  categoryId: null,
  deskId: null,
  clientId: null,
  assetId: null,
};
const count = async () => Number((await world.knex('ticket').count('* as n').first())!['n']);

describe('mail in', () => {
  it('makes a ticket of kind unsorted, with text, clean HTML, attachments and the raw source kept', async () => {
    await send({
      messageId: '<a1@hollin.example>',
      subject: 'Till 4 is stuck',
      text: 'It is stuck.',
      html: '<p onclick="x()">It is <b>stuck</b>.<script>alert(1)</script><img src="https://spy.example/p.gif"></p>',
      attachments: [{ filename: 'photo of till.txt', content: 'not really a photo' }],
    });
    const t = await ticketOf('<a1@hollin.example>');
    expect(t).toMatchObject({ kind: 'unsorted', status: 'new', subject: 'Till 4 is stuck' });
    expect(t.contact_id).not.toBeNull();
    expect(t.html).toBe('<p>It is <b>stuck</b>.<img /></p>');
    expect(t.left_out).toEqual([]);
    const script = await world.as('Aoife');
    const seen = await script.do('getTicket', { params: { ticketId: t.id } });
    expect(seen.clocks.map((c) => [c.clock, c.state])).toEqual([
      ['triage', 'running'],
      ['response', 'running'],
      ['resolution', 'running'],
    ]);
    expect(seen.client).toBe('Hollin Veterinary Group');
    const [attachment] = seen.messages[0]!.attachments;
    expect(attachment).toMatchObject({ name: 'photo of till.txt', bytes: 18 });
    const file = await script.ask('getAttachment', { params: { attachmentId: attachment!.id } });
    expect(file.bytes.toString()).toBe('not really a photo');
    expect(file.headers.get('content-disposition')).toContain("attachment; filename*=UTF-8''photo%20of%20till.txt");
    const source = await script.ask('getMessageSource', { params: { messageId: t.mid } });
    expect(source.bytes.toString()).toContain('Message-ID: <a1@hollin.example>');
  });

  it('joins a reply to its ticket by References, also when the subject says otherwise', async () => {
    const first = await ticketOf('<a1@hollin.example>');
    const before = await count();
    await send({
      messageId: '<a2@hollin.example>',
      subject: 'something else',
      inReplyTo: '<unknown@x.example>',
      references: ['<a1@hollin.example>', '<unknown@x.example>'],
      text: 'Still stuck.',
    });
    expect((await ticketOf('<a2@hollin.example>')).id).toBe(first.id);
    expect(await count()).toBe(before);
  });

  it('joins by the token only from somebody who belongs; else opens a ticket linked for a person to decide', async () => {
    const first = await ticketOf('<a1@hollin.example>');
    const subject = subjectWithToken(first.subject, { number: first.number, secret: first.secret });
    const colleague = await world.knex('contact').where({ client_id: first.client_id }).whereNot({ id: first.contact_id }).first();
    await send({ from: colleague.email, messageId: '<a3@hollin.example>', subject, text: 'I see it too.' });
    expect((await ticketOf('<a3@hollin.example>')).id).toBe(first.id);
    await send({ from: 'nosy@elsewhere.example', messageId: '<a4@elsewhere.example>', subject, text: 'Let me in.' });
    const stranger = await ticketOf('<a4@elsewhere.example>');
    expect(stranger.id).not.toBe(first.id);
    expect(stranger.linked_ticket_id).toBe(first.id);
    expect(stranger.threading_why[0].rule).toContain('does not belong');
    await send({ messageId: '<a5@hollin.example>', subject: `Re: x (ref ${first.number}-aaaaaa)`, text: 'wrong secret' });
    expect((await ticketOf('<a5@hollin.example>')).id).not.toBe(first.id);
  });

  it('takes the same message once, delivered one after another, at the same time, and to two processes', async () => {
    const other = await world.second();
    const mail = { messageId: '<twice@hollin.example>', date: new Date(0), subject: 'Only once', text: 'please' };
    await Promise.all([send(mail), send(mail), send(mail, other.smtpPort), send(mail, other.smtpPort)]);
    await send(mail);
    expect(await world.knex('message').where({ message_id: '<twice@hollin.example>' })).toHaveLength(1);
    expect(await world.knex('ticket').where({ subject: 'Only once' })).toHaveLength(1);
  });

  it('lets an unknown sender land in intake, with the client proposed by domain', async () => {
    await send({ from: 'new.person@mirebank.example', messageId: '<n1@mirebank.example>', subject: 'Hall tablet', text: 'hello' });
    const t = await ticketOf('<n1@mirebank.example>');
    expect([t.client_id, t.contact_id]).toEqual([null, null]);
    const seen = await (await world.as('Aoife')).do('getTicket', { params: { ticketId: t.id } });
    expect(seen.unknownSender).toBe(true);
    const { client } = await (await world.as('Aoife')).do('getProposals', { params: { ticketId: t.id } });
    expect([client?.label, client?.sure, client?.why[0]?.rule]).toEqual([
      'Mirebank Schools',
      false,
      'mail from mirebank.example is of this client',
    ]);
  });

  it('makes no storm of automatic replies and its own mail; what answers a ticket joins it quietly, with the dates of an absence', async () => {
    const first = await ticketOf('<a1@hollin.example>');
    const before = await count();
    const auto = await take(
      head(
        [
          'From: orla.devane@hollin.example',
          'Message-ID: <auto1@hollin.example>',
          'In-Reply-To: <a1@hollin.example>',
          'Auto-Submitted: auto-replied',
          'Subject: Out of office',
        ],
        'I am away until 4 December.',
      ),
    );
    expect(auto).toMatchObject({ did: 'joined', ticketId: first.id });
    expect(await ticketOf('<auto1@hollin.example>')).toMatchObject({ automatic: true, notice: { is: 'away', back: '2026-12-05' } });
    // Our own mail that comes back carries our mark, signed for just this message.
    const { number: _, ...sent } = await world.knex('message').whereNotNull('message_id').where({ direction: 'out' }).first('message_id');
    const mark = createHmac('sha256', 'a secret that only tests know').update(sent.message_id).digest('base64url');
    const loop = (value: string, id = sent.message_id) =>
      take(
        head(['From: desk@pellworth.example', `Message-ID: ${id}`, `X-Drumline-Origin: ${value}`, 'Subject: loop']),
        'desk@pellworth.example',
      );
    expect(await loop(mark)).toEqual({ did: 'kept aside' });
    expect(await count()).toBe(before);
    // A mark that anybody can write hides nothing.
    expect(await loop('Pellworth', '<l1@pellworth.example>')).toMatchObject({ did: 'opened' });
    expect(await loop(mark, '<l2@pellworth.example>')).toMatchObject({ did: 'opened' });
    expect(await world.knex('message').where({ ticket_id: first.id, direction: 'out' })).toHaveLength(0);
  });

  it('takes who writes through a group as the person they are', async () => {
    const owed = await world.knex('ticket').where({ status: 'resolved' }).whereNotNull('contact_id').orderBy('id', 'desc').first();
    const contact = await world.knex('contact').where({ id: owed.contact_id }).first('email');
    const last = await world.knex('message').where({ ticket_id: owed.id, direction: 'out' }).first('message_id');
    await take(
      head(
        [
          `From: ${contact.email}`,
          'Message-ID: <list@x.example>',
          `In-Reply-To: ${last.message_id}`,
          'List-Id: <staff.x.example>',
          'Precedence: list',
          'Subject: Re: it',
        ],
        'It is still broken.',
      ),
      contact.email,
    );
    const now = await world.knex('ticket').where({ id: owed.id }).first();
    expect([now.status, now.reply_owed_since]).toEqual(['queued', world.clock.now()]);
  });

  it('lets machines with no return path into intake, and joins nobody quietly who only added a header', async () => {
    const alert = await take(head(['From: monitor@brackwater.example', 'Message-ID: <alert1@x.example>', 'Subject: ALERT: disk full']), '');
    expect(alert.did).toBe('opened');
    expect(await ticketOf('<alert1@x.example>')).toMatchObject({ automatic: true, kind: 'unsorted' });
    const first = await ticketOf('<a1@hollin.example>');
    const nosy = await take(
      head([
        'From: nosy2@elsewhere.example',
        'Message-ID: <nosy2@x.example>',
        'In-Reply-To: <a1@hollin.example>',
        'Auto-Submitted: auto-replied',
        'Subject: hm',
      ]),
      'nosy2@elsewhere.example',
    );
    expect(nosy).toMatchObject({ did: 'opened' });
    expect((await ticketOf('<nosy2@x.example>')).linked_ticket_id).toBe(first.id);
    // The next of theirs goes on there, and opens no other.
    await take(
      head(['From: nosy2@elsewhere.example', 'Message-ID: <nosy3@x.example>', 'In-Reply-To: <a1@hollin.example>', 'Subject: hm']),
      'nosy2@elsewhere.example',
    );
    expect((await ticketOf('<nosy3@x.example>')).id).toBe(nosy.ticketId);
  });

  const report = ({
    id,
    address,
    action,
    status,
    original,
  }: {
    readonly id: string;
    readonly address: string;
    readonly action: 'failed' | 'delayed';
    readonly status: string;
    readonly original: string;
  }) => deliveryReport({ id, address, action, status, original });

  it('takes a delivery report to its message: owes the reply again, ends the hold, tells who has it, marks the address', async () => {
    const aoife = await world.as('Aoife');
    const deepa = await world.knex('person').where('name', 'like', 'Deepa%').first('id');
    const desk = await world.knex('ticket').where({ status: 'queued' }).whereNotNull('contact_id').whereNull('umbrella_id').first();
    const contact = await world.knex('contact').where({ id: desk.contact_id }).first('email');
    await world.knex('ticket').where({ id: desk.id }).update({ assignee_id: deepa.id });
    await take(
      head([`From: ${contact.email}`, 'Message-ID: <asks@x.example>', `Subject: x (ref ${desk.number}-${desk.secret})`], 'When?'),
      contact.email,
    );
    const sent = await aoife.do('replyToTicket', {
      params: { ticketId: desk.id },
      body: { text: 'Monday?', cc: [], then: 'on hold', seenMessageId: null },
    });
    await until('it has left', async () => (await world.knex('message').where({ id: sent.id }).first('left_at'))?.left_at);
    await until('it is on hold', async () => (await world.knex('ticket').where({ id: desk.id }).first('status')).status === 'on hold');
    const { message_id: ours } = await world.knex('message').where({ id: sent.id }).first('message_id');
    const state = async () => world.knex('ticket').where({ id: desk.id }).first('status', 'reply_owed_since', 'look_is', 'look_at');
    expect(
      await take(report({ id: '<dsn0@mx.example>', address: contact.email, action: 'delayed', status: '4.4.1', original: ours }), ''),
    ).toMatchObject({ ticketId: desk.id });
    expect(await state()).toMatchObject({ status: 'on hold', reply_owed_since: null });
    expect(
      await take(
        report({ id: '<dsn1@mx.example>', address: contact.email.toUpperCase(), action: 'failed', status: '5.1.1', original: ours }),
        '',
      ),
    ).toMatchObject({
      did: 'joined',
    });
    const now = await state();
    expect([now.status, now.reply_owed_since !== null]).toEqual(['queued', true]);
    expect([now.look_is, now.look_at]).toEqual(['not delivered', contact.email]);
    const seen = await aoife.do('getTicket', { params: { ticketId: desk.id } });
    expect(seen.messages.find((m) => m.id === sent.id)!.deliveries).toEqual([
      { address: contact.email, became: 'failed', code: '5.1.1', why: 'there is no such mailbox' },
    ]);
    expect(seen.story.some((s) => s.what === `our mail to ${contact.email} is not delivered: there is no such mailbox`)).toBe(true);
    const notices = await world.knex('notice').where({ person_id: deepa.id, ticket_id: desk.id }).pluck('text');
    expect(notices.some((text: string) => text.includes('not delivered'))).toBe(true);
    expect((await world.knex('contact').where({ id: desk.contact_id }).first('mail_trouble')).mail_trouble).toBe(
      'there is no such mailbox',
    );
    // Anybody can write a report; it marks no address that our mail did not go to.
    const other = await world.knex('contact').whereNot({ id: desk.contact_id }).whereNull('archived_at').first('id', 'email');
    await take(report({ id: '<dsn2@mx.example>', address: other.email, action: 'failed', status: '5.1.1', original: ours }), '');
    expect((await world.knex('contact').where({ id: other.id }).first('mail_trouble')).mail_trouble).toBeNull();
    // They write again from it: it works.
    await take(
      head([`From: ${contact.email}`, 'Message-ID: <again@x.example>', 'In-Reply-To: <asks@x.example>', 'Subject: x']),
      contact.email,
    );
    expect((await world.knex('contact').where({ id: desk.contact_id }).first('mail_trouble')).mail_trouble).toBeNull();
  });

  it('puts nothing aside unseen: what was, stands in Setup with its reason, and a ticket is made of it with one press', async () => {
    const aoife = await world.as('Aoife');
    expect(
      await take(
        report({
          id: '<dsn9@mx.example>',
          address: 'a@b.example',
          action: 'failed',
          status: '5.1.1',
          original: '<nobody@elsewhere.example>',
        }),
        '',
      ),
    ).toEqual({
      did: 'kept aside',
    });
    await aoife.do('addMailRule', {
      body: { ...RULE, name: 'Backups', subject: 'backup*succeeded', does: 'aside', reason: 'it went well' },
    });
    await take(
      head(['From: b@hollin.example', 'Message-ID: <bk1@x.example>', 'Subject: Nightly BACKUP of till 4 succeeded'], 'fine'),
      'b@hollin.example',
    );
    const { rows } = await aoife.do('listAside', {});
    expect(rows.map((r) => [r.subject, r.reason, r.rule])).toEqual(
      expect.arrayContaining([
        ['Nightly BACKUP of till 4 succeeded', 'it went well', 'Backups'],
        ['Delivery report', 'a delivery report that names no mail of ours', null],
      ]),
    );
    const waiting = (await aoife.do('countAside')).waiting;
    expect((await aoife.do('getCounts')).aside).toBe(waiting);
    const backup = rows.find((r) => r.rule === 'Backups')!;
    const raw = await aoife.ask('getAsideSource', { params: { asideId: backup.id } });
    expect(raw.bytes.toString()).toContain('Subject: Nightly BACKUP');
    const opened = await aoife.do('openAside', { params: { asideId: backup.id } });
    expect((await ticketOf('<bk1@x.example>')).id).toBe(opened.ticketId);
    expect((await aoife.ask('openAside', { params: { asideId: backup.id } })).status).toBe(409);
    await aoife.do('endAside', { params: { asideId: rows.find((r) => r.rule === null)!.id } });
    expect((await aoife.do('countAside')).waiting).toBe(waiting - 2);
    expect((await (await world.as('Deepa')).ask('listAside', {})).status).toBe(403);
  });

  it('sends mail where a rule of the house says, sorted, and leaves to intake what the rule leaves open', async () => {
    const aoife = await world.as('Aoife');
    const client = await world.knex('client').where({ name: 'Brackwater Ferries' }).first('id');
    const category = await world.knex('category').whereNotNull('parent_id').first('id');
    const line = await world.knex('desk_line').where({ line: 'first' }).first('desk_id');
    const sorted = {
      kind: 'alert',
      impact: 'several',
      urgency: 'hampered',
      line: 'first',
      categoryId: category.id,
      deskId: line.desk_id,
      clientId: client.id,
    };
    const wrong = await aoife.ask('addMailRule', { body: { ...RULE, name: 'nothing asked' } });
    expect([wrong.status, (wrong.body as { fields: object }).fields]).toEqual([
      422,
      { sender: expect.stringContaining('say what it looks for') },
    ]);
    const nothing = await aoife.ask('tryMailRule', { body: { sender: '', subject: '', header: '', headerHolds: '' } });
    expect([nothing.status, Object.keys((nothing.body as { fields: object }).fields)]).toEqual([422, ['sender']]);
    const tried = await aoife.do('tryMailRule', { body: { sender: '@hollin', subject: '', header: '', headerHolds: '' } });
    expect(tried.takes).toBeGreaterThan(3);
    expect(tried.taken.every((m) => m.sender.includes('@hollin'))).toBe(true);
    const byHeader = await aoife.do('tryMailRule', { body: { sender: '', subject: '', header: 'auto-submitted', headerHolds: 'replied' } });
    expect(byHeader.taken.map((m) => m.subject)).toContain('Out of office');
    await aoife.do('addMailRule', {
      body: { ...RULE, name: 'Terminals', sender: 'terminal*@brackwater', header: 'x-host', headerHolds: 'quay', ...sorted },
    });
    const mail = (id: string, host: string) =>
      take(
        head([
          'From: terminal4@brackwater.example',
          `Message-ID: ${id}`,
          `X-Host: ${host}`,
          'Auto-Submitted: auto-generated',
          'Subject: link down',
        ]),
        'x@y.example',
      );
    await mail('<term1@x.example>', 'north-quay-2');
    expect(await ticketOf('<term1@x.example>')).toMatchObject({
      kind: 'alert',
      status: 'queued',
      client_id: client.id,
      desk_id: line.desk_id,
    });
    const told = await world
      .knex('event')
      .where({ ticket_id: (await ticketOf('<term1@x.example>')).id })
      .orderBy('id')
      .select('type', 'who', 'who_name');
    expect(told).toEqual(
      expect.arrayContaining([
        { type: 'ticket.opened', who: 'contact', who_name: 'terminal4@brackwater.example' },
        { type: 'ticket.routed', who: 'rule', who_name: 'Terminals' },
        { type: 'ticket.mail-rule-applied', who: 'rule', who_name: 'Terminals' },
      ]),
    );
    await mail('<term2@x.example>', 'elsewhere');
    expect(await ticketOf('<term2@x.example>')).toMatchObject({ kind: 'unsorted' });
  });

  it('takes the same id with another file, text or date as another message, NUL in any header, and ids of any length', async () => {
    const mail = (more: object) => ({ messageId: '<scan@hollin.example>', subject: 'Scan', text: 'see file', date: new Date(0), ...more });
    const file = (content: string) => ({ attachments: [{ filename: 'scan.pdf', content }] });
    for (const more of [file('one'), file('two'), { ...file('two'), date: new Date(1e9) }, file('one')]) await send(mail(more));
    expect(await world.knex('message').where({ message_id: '<scan@hollin.example>' })).toHaveLength(3);
    const long = `<${'x'.repeat(9000)}@hollin.example>`;
    for (const lines of [
      [`Message-ID: ${long}`],
      ['Message-ID: <n\0ul@hollin.example>', 'Message-ID: <b@x>'],
      [`Message-ID: <r@x.example>`, `References: ${long} <n\0ul@hollin.example>`, 'X-A\0: b\0'],
    ])
      // prettier-ignore
      expect((await take(head(['From: orla.devane@hollin.example', 'Subject: odd', ...lines]))).did).not.toBe('kept aside');
    const joined = await take(
      head(['From: orla.devane@hollin.example', 'Message-ID: <after@x.example>', `In-Reply-To: ${long}`, 'Subject: Re: odd']),
    );
    expect(joined.did).toBe('joined');
  });

  it('takes mail that is too much to read with its text and its source, and says so', async () => {
    const nested = `<p>First words</p>${'<div>'.repeat(60_000)}deep`;
    const html = head(
      ['From: orla.devane@hollin.example', 'Message-ID: <deep@x.example>', 'Content-Type: text/html', 'Subject: deep'],
      nested,
    );
    await take(html);
    const deep = await ticketOf('<deep@x.example>');
    expect([deep.html, deep.left_out, deep.text.startsWith('First words')]).toEqual([null, ['html'], true]);
    await take(
      head(
        ['From: orla.devane@hollin.example', 'Message-ID: <lt@x.example>', 'Content-Type: text/html', 'Subject: lt'],
        '<'.repeat(2_000_000),
      ),
    );
    expect((await ticketOf('<lt@x.example>')).html).toBeNull();
    await take(head(['From: orla.devane@hollin.example', 'Message-ID: <long@x.example>', 'Subject: long'], 'word '.repeat(200_000)));
    const long = await ticketOf('<long@x.example>');
    expect([long.left_out, long.text.length <= 100_000]).toEqual([['text'], true]);
    const seen = await (await world.as('Aoife')).do('getTicket', { params: { ticketId: long.id } });
    expect(seen.messages[0]!.leftOut).toEqual(['text']);
  });

  it('ends what is too large where it is too large', async () => {
    const socket = connect(world.running.smtpPort, '127.0.0.1');
    let said = '';
    socket.on('data', (chunk) => (said += chunk.toString())).on('error', () => undefined);
    const step = async (line: string, code: string) => {
      socket.write(`${line}\r\n`);
      await until(code, async () => said.includes(`\n${code} `) || said.startsWith(`${code} `));
      said = '';
    };
    await until('the greeting', async () => said.startsWith('220 '));
    await step('EHLO x', '250');
    await step('MAIL FROM:<a@hollin.example>', '250');
    await step('RCPT TO:<desk@pellworth.example>', '250');
    await step('DATA', '354');
    const block = Buffer.alloc(1024 * 1024, 'x'.repeat(76) + '\r\n');
    let sent = 0;
    const closed = new Promise<void>((done) => socket.once('close', () => done()));
    const feed = () => {
      while (!socket.destroyed && sent++ < 600) if (!socket.write(block)) return void socket.once('drain', feed);
    };
    feed();
    await closed;
    expect(said).toContain('552');
    expect(sent).toBeLessThan(600);
  });

  it('reopens a resolved ticket, ends a hold for the client, and owes a reply', async () => {
    const owed = await world.knex('ticket').where({ status: 'resolved' }).whereNotNull('contact_id').first();
    const contact = await world.knex('contact').where({ id: owed.contact_id }).first('email');
    const last = await world.knex('message').where({ ticket_id: owed.id, direction: 'out' }).first('message_id');
    await send({
      from: contact.email,
      messageId: '<back@x.example>',
      inReplyTo: last.message_id,
      subject: 'Re: again',
      text: 'It is broken again.',
    });
    const now = await world.knex('ticket').where({ id: owed.id }).first();
    expect(now.status).toBe('queued');
    expect(now.reply_owed_since).toBe(world.clock.now());
    const clock = await world.knex('ticket_clock').where({ ticket_id: owed.id, clock: 'resolution' }).first();
    expect(['running', 'missed and running']).toContain(clock.state);
  });

  it('gives each oddity exactly one ticket and never an exception', async () => {
    const oddities: [string, string | Buffer][] = [
      ['no headers at all', 'just words'],
      ['empty', ''],
      ['no Message-ID, no subject', head(['From: a@odd.example'])],
      [
        'broken MIME',
        head(
          ['From: a@odd.example', 'Content-Type: multipart/mixed; boundary="x"', 'Subject: broken'],
          '--x\r\nContent-Type: text/html\r\n\r\n<p>open',
        ),
      ],
      ['unknown charset', head(['From: a@odd.example', 'Content-Type: text/plain; charset=x-nobody', 'Subject: charset'], 'caf\xe9')],
      ['NUL inside', Buffer.from(head(['From: a@odd.example', 'Subject: nul\0byte'], 'a\0b'), 'latin1')],
      ['half a surrogate in an encoded word', head(['From: a@odd.example', 'Subject: =?utf-8?b?7aCA?='])],
      ['endless subject', head(['From: a@odd.example', `Subject: ${'very '.repeat(5000)}`])],
      ['address with comma', head(['From: "Odd, A." <a@odd.example>', 'Subject: comma'])],
      ['date in year 99999', head(['From: a@odd.example', 'Date: Mon, 99 Foo 99999 99:99:99 +9999', 'Subject: date'])],
    ];
    for (const [name, raw] of oddities) {
      const before = await count();
      const received = await take(raw, 'a@odd.example');
      expect([name, received.did, (await count()) - before]).toEqual([name, 'opened', 1]);
    }
  });

  it('keeps whatever bytes come', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.uint8Array({ maxLength: 400 }),
        fc.array(
          fc.constantFrom(
            'Content-Type: multipart/mixed; boundary=a',
            'Content-Transfer-Encoding: base64',
            'References: <<>> <a1@hollin.example',
            'From: =?x?q?=',
            'MIME-Version: 2',
            'Subject: (ref 4001-abcdef)',
          ),
          { maxLength: 4 },
        ),
        async (bytes, lines) => {
          const before = Number((await world.knex('mail_source').count('* as n').first())!['n']);
          const raw = Buffer.concat([Buffer.from([...lines, '', ''].join('\r\n')), Buffer.from(bytes)]);
          const { did } = await take(raw, 'fuzz@odd.example');
          const after = Number((await world.knex('mail_source').count('* as n').first())!['n']);
          expect(after - before).toBe(did === 'seen before' ? 0 : 1);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('asks the sender to try again while the database is dead, and takes the mail once it is back', async () => {
    const mail = { messageId: '<later@hollin.example>', subject: 'Later', text: 'x' };
    const admin = openDatabase(`${process.env['DRUMLINE_TEST_URL']}/postgres`, 1);
    const name = new URL(world.url).pathname.slice(1);
    try {
      await admin.raw(`alter database ${name} allow_connections false`);
      await admin.raw(`select pg_terminate_backend(pid) from pg_stat_activity where datname = ?`, [name]);
      await expect(send(mail)).rejects.toMatchObject({ responseCode: 451 });
    } finally {
      await admin.raw(`alter database ${name} allow_connections true`);
      await admin.destroy();
    }
    await until('the mail is taken', async () =>
      send(mail)
        .then(() => true)
        .catch(() => false),
    );
    const stored = await world.knex('message').where({ message_id: '<later@hollin.example>' }).count('* as n').first();
    expect(Number(stored!['n'])).toBe(1);
  });
});
