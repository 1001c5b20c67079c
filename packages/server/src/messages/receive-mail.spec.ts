import fc from 'fast-check';
import { subjectWithToken } from '@core/messages';
import { startWorld, until, type World, postMail } from '../../testing/test-server';
import { openDatabase } from '../app/database';
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
    .first('t.*', 'm.html', 'm.text', 'm.id as mid', 'm.automatic');
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
    const mail = { messageId: '<twice@hollin.example>', subject: 'Only once', text: 'please' };
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

  it('makes no storm of automatic replies, bounces and its own mail', async () => {
    const first = await ticketOf('<a1@hollin.example>');
    const before = await count();
    const auto = await take(
      head([
        'From: orla.devane@hollin.example',
        'Message-ID: <auto1@hollin.example>',
        'In-Reply-To: <a1@hollin.example>',
        'Auto-Submitted: auto-replied',
        'Subject: Out of office',
      ]),
    );
    expect(auto).toMatchObject({ did: 'joined', ticketId: first.id });
    expect((await ticketOf('<auto1@hollin.example>')).automatic).toBe(true);
    expect(
      await take(head(['From: mailer-daemon@hollin.example', 'Message-ID: <b1@hollin.example>', 'Subject: Undeliverable']), ''),
    ).toEqual({ did: 'kept aside' });
    expect(
      await take(
        head(['From: desk@pellworth.example', 'Message-ID: <l1@pellworth.example>', 'X-Drumline-Origin: Pellworth', 'Subject: loop']),
      ),
    ).toEqual({ did: 'kept aside' });
    expect(await count()).toBe(before);
    expect(await world.knex('message').where({ ticket_id: first.id, direction: 'out' })).toHaveLength(0);
    expect(await world.knex('mail_source').where({ message_id: '<b1@hollin.example>' })).toHaveLength(1);
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
