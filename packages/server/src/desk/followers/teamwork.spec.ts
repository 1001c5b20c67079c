import type { TicketWire } from '@core/desk';
import { detailOf, postMail, startWorld, until, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let deepa: Script;
let sora: Script;
beforeAll(async () => {
  world = await startWorld();
  [aoife, deepa, sora] = [await world.as('Aoife'), await world.as('Deepa'), await world.as('Sora')];
});
afterAll(() => world.stop());

const read = (ticketId: string): Promise<TicketWire> => aoife.do('getTicket', { params: { ticketId } });
const some = async (n: number) =>
  world
    .knex('ticket as t')
    .join('contact as k', 'k.id', 't.contact_id')
    .where({ 't.status': 'queued', 't.kind': 'incident' })
    .whereNull('t.umbrella_id')
    .orderBy('t.number')
    .offset(n)
    .first('t.id', 't.number', 't.secret', 't.subject', 'k.email');
const told = async (name: string): Promise<string[]> =>
  world
    .knex('notice as n')
    .join('person as p', 'p.id', 'n.person_id')
    .where('p.name', 'like', `${name}%`)
    .orderBy('n.at')
    .orderBy('n.id')
    .pluck('n.text');

describe('followers', () => {
  it('are told what the client writes and where the ticket moves, but not what they do themselves', async () => {
    const t = await some(0);
    const { followers } = await sora.do('follow', { params: { ticketId: t.id }, body: { follows: true } });
    expect(followers.map((f) => f.name)).toEqual([expect.stringContaining('Sora')]);
    await sora.do('follow', { params: { ticketId: t.id }, body: { follows: true } });
    await postMail(world.running.smtpPort, {
      from: t.email,
      to: 'desk@pellworth.example',
      subject: `Re: ${t.subject} (ref ${t.number}-${t.secret})`,
      text: 'Still so.',
    });
    const before = await told('Sora');
    expect(before).toContainEqual(expect.stringMatching(new RegExp(`^#${t.number} .* wrote$`)));
    const move = async (by: Script, status: 'underway' | 'queued') =>
      by.do('setTicketStatus', {
        params: { ticketId: t.id },
        version: (await read(t.id)).version,
        body: { status, holdReason: null, ownStatusId: null, override: null },
      });
    await move(sora, 'underway');
    // Jobs tell of what falls due meanwhile; of the move nobody does.
    expect(await told('Sora')).not.toContainEqual(expect.stringMatching(/, by Sora/));
    await move(deepa, 'queued');
    expect(await told('Sora')).toContainEqual(expect.stringMatching(/queued, by Deepa/));
    await sora.do('follow', { params: { ticketId: t.id }, body: { follows: false } });
    expect((await read(t.id)).followers).toEqual([]);
  });

  it('become so by a mention, which tells them once', async () => {
    const t = await some(1);
    await deepa.do('addNote', { params: { ticketId: t.id }, body: { text: '@Sora can you look? And @sora again.', uploadIds: [] } });
    expect((await read(t.id)).followers.map((f) => f.name)).toEqual([expect.stringContaining('Sora')]);
    expect((await told('Sora')).filter((n) => n.includes(`asks for you on #${t.number}`)).length).toBe(1);
    await deepa.do('addNote', { params: { ticketId: t.id }, body: { text: 'Never mind.', uploadIds: [] } });
    expect(await told('Sora')).toContainEqual(expect.stringMatching(/Deepa .* wrote an inside note/));
  });
});

describe('related tickets', () => {
  it('are related both ways, once, and no more when taken away', async () => {
    const [a, b] = [await some(0), await some(1)];
    await deepa.do('relateTicket', { params: { ticketId: a.id }, body: { number: b.number } });
    await deepa.do('relateTicket', { params: { ticketId: b.id }, body: { number: a.number } });
    expect((await read(a.id)).related).toEqual([{ id: b.id, number: b.number, subject: b.subject, status: 'queued', how: 'related' }]);
    expect((await read(b.id)).related.map((r) => r.number)).toEqual([a.number]);
    expect(detailOf(await deepa.ask('relateTicket', { params: { ticketId: a.id }, body: { number: a.number } }))).toBe(
      'A ticket is not related to itself.',
    );
    expect(detailOf(await deepa.ask('relateTicket', { params: { ticketId: a.id }, body: { number: 999_999 } }))).toBe(
      'There is no ticket #999999.',
    );
    expect((await deepa.do('unrelateTicket', { params: { ticketId: b.id, relatedId: a.id } })).removed).toBe(1);
    expect((await read(a.id)).related).toEqual([]);
  });
});

describe('files', () => {
  const put = ({
    by,
    ticketId,
    name,
    bytes,
    mediaType = 'text/plain',
  }: {
    readonly by: Script;
    readonly ticketId: string;
    readonly name: string;
    readonly bytes: Buffer;
    readonly mediaType?: string;
  }) => by.do('addUpload', { params: { ticketId }, query: { name, mediaType }, body: bytes });

  it('go out with a reply, byte for byte, under their own names', async () => {
    const t = await some(2);
    const bytes = Buffer.from(Array.from({ length: 4000 }, (_, i) => i % 256));
    const one = await put({ by: deepa, ticketId: t.id, name: '..\\up/Zoë list.bin', bytes, mediaType: 'application/octet-stream' });
    const two = await put({ by: deepa, ticketId: t.id, name: 'plan.txt', bytes: Buffer.from('Monday: cable.') });
    expect([one.name, one.bytes]).toEqual(['Zoë list.bin', 4000]);
    const newest = (await read(t.id)).messages.at(-1)!.id;
    const { id } = await deepa.do('replyToTicket', {
      params: { ticketId: t.id },
      body: { text: 'Here it is.', cc: [], then: null, seenMessageId: newest, uploadIds: [one.id, two.id] },
    });
    await until('the reply left', async () => world.knex('message').where({ id }).whereNotNull('left_at').first('id'));
    const mail = (await world.mailbox()).find((m) => m.text?.includes('Here it is.'))!;
    expect([...mail.attachments].sort()).toEqual(['Zoë list.bin', 'plan.txt']);
    const sent = (await read(t.id)).messages.find((m) => m.text === 'Here it is.')!;
    const file = sent.attachments.find((a) => a.name === 'Zoë list.bin')!;
    expect((await aoife.ask('getAttachment', { params: { attachmentId: file.id } })).bytes.equals(bytes)).toBe(true);
    expect(await world.knex('upload').where({ ticket_id: t.id })).toEqual([]);
  });

  it("are the writer's own, on their ticket, taken off before they are sent, and refused when empty or too large", async () => {
    const [t, other] = [await some(2), await some(3)];
    const mine = await put({ by: deepa, ticketId: t.id, name: 'a.txt', bytes: Buffer.from('a') });
    const note = (by: Script, ticketId: string) =>
      by.ask('addNote', { params: { ticketId }, body: { text: 'With it.', uploadIds: [mine.id] } });
    expect([(await note(sora, t.id)).status, (await note(deepa, other.id)).status]).toEqual([422, 422]);
    expect((await sora.do('removeUpload', { params: { uploadId: mine.id } })).removed).toBe(0);
    expect((await deepa.do('removeUpload', { params: { uploadId: mine.id } })).removed).toBe(1);
    expect((await note(deepa, t.id)).status).toBe(422);
    const ask = (bytes: Buffer) => deepa.ask('addUpload', { params: { ticketId: t.id }, query: { name: 'x' }, body: bytes });
    expect((await ask(Buffer.alloc(0))).status).toBe(422);
    const large = await ask(Buffer.alloc(20 * 1024 * 1024 + 1));
    expect([large.status, detailOf(large)]).toEqual([413, expect.stringContaining('20')]);
  });
});

describe('two people on one ticket', () => {
  it('see each other, and that one writes, until one leaves or is silent', async () => {
    const t = await some(0);
    const be = async (by: Script, writing = false, here = true) =>
      (await by.do('beThere', { params: { ticketId: t.id }, body: { here, writing } })).others.map((o) => [
        o.name.split(' ')[0],
        o.writing,
      ]);
    expect(await be(deepa)).toEqual([]);
    expect(await be(sora, true)).toEqual([['Deepa', false]]);
    expect(await be(deepa)).toEqual([['Sora', true]]);
    expect(await be(sora, false, false)).toEqual([['Deepa', false]]);
    expect(await be(deepa)).toEqual([]);
    await be(sora);
    world.clock.forward(46);
    expect(await be(deepa)).toEqual([]);
  });
});
