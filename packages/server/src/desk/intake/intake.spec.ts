import type { Proposals, TicketWire } from '@core/desk';
import { detailOf, startWorld, type Script, type World, postMail } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let deepa: Script;
let support: string;
let security: string;
const categories: Record<string, string> = {};
beforeAll(async () => {
  world = await startWorld();
  [aoife, deepa] = [await world.as('Aoife'), await world.as('Deepa')];
  const { desks } = await aoife.do('getHouse');
  [support, security] = [desks.find((d) => d.name === 'Support')!.id, desks.find((d) => d.name === 'Security')!.id];
  for (const c of (await aoife.do('listCategories')).categories) categories[c.name] = c.id;
});
afterAll(() => world.stop());

const read = (ticketId: string): Promise<TicketWire> => aoife.do('getTicket', { params: { ticketId } });
const think = (ticketId: string): Promise<Proposals> => aoife.do('getProposals', { params: { ticketId } });
let sent = 0;
async function mail({
  from,
  subject,
  text,
  more = {},
}: {
  readonly from: string;
  readonly subject: string;
  readonly text: string;
  readonly more?: object;
}): Promise<TicketWire> {
  const messageId = `<intake${++sent}@${from.split('@')[1]}>`;
  await postMail(world.running.smtpPort, {
    from,
    to: 'desk@pellworth.example',
    subject,
    text,
    messageId,
    ...more,
  });
  const row = await world.knex('message').where({ message_id: messageId }).first('ticket_id');
  return read(row.ticket_id);
}
const orla = 'orla.devane@hollin.example';
async function triage(t: TicketWire, more: object = {}) {
  return aoife.do('triageTicket', {
    params: { ticketId: t.id },
    version: t.version,
    body: {
      impact: 'one',
      urgency: 'hampered',
      kind: 'incident',
      deskId: support,
      line: 'first',
      categoryId: categories['Printing and scanning'],
      clientId: t.clientId,
      contactId: t.contactId,
      assetId: null,
      assigneeId: null,
      ...more,
    },
  });
}

describe('proposals', () => {
  it('take category, kind and desk from like tickets of the past, with which they were', async () => {
    const t = await mail({
      from: orla,
      subject: 'Label printer prints half labels',
      text: 'Good morning,\n\nthe labels come out half blank again.\n\nOrla',
    });
    const p = await think(t.id);
    expect([p.category?.label, p.desk?.label, p.kind?.value]).toEqual(['Printing and scanning', 'Support', 'incident']);
    expect(p.category!.sure).toBe(true);
    expect(p.category!.why.map((s) => s.rule).join(' ')).toMatch(/^of \d+ like tickets their share, each by how like it is #\d+/);
    expect([p.client, p.contact, p.subject, p.sameCause]).toEqual([null, null, null, null]);
  });

  it('name the client by domain, the contact by signature and the asset by its number', async () => {
    const asset = await world
      .knex('asset as a')
      .join('client as c', 'c.id', 'a.client_id')
      .where('c.name', 'Hollin Veterinary Group')
      .first('a.number', 'a.id');
    const t = await mail({
      from: 'front.desk@hollin.example',
      subject: 'help',
      text: `Hello,\n\n${asset.number} does not print labels any more.\n\nOrla Devane`,
    });
    const p = await think(t.id);
    expect([p.client?.label, p.contact?.label, p.asset?.value]).toEqual(['Hollin Veterinary Group', 'Orla Devane', asset.id]);
    expect(p.contact!.why).toEqual([{ rule: 'the message is signed with their name' }]);
    expect(p.subject?.value).toBe(`${asset.number} does not print labels any more`);
    const done = await aoife.do('setSubject', { params: { ticketId: t.id }, version: t.version, body: { subject: p.subject!.value } });
    expect((await read(t.id)).subject).toBe(p.subject!.value);
    expect((await aoife.ask('setSubject', { params: { ticketId: t.id }, version: done.version - 1, body: { subject: 'x' } })).status).toBe(
      412,
    );
  });

  it("find a client by an asset of theirs where the domain is nobody's", async () => {
    const asset = await world.knex('asset as a').join('client as c', 'c.id', 'a.client_id').first('a.number', 'c.name');
    const t = await mail({ from: 'someone@nowhere.example', subject: 'It beeps', text: `The box ${asset.number} beeps.` });
    const p = await think(t.id);
    expect([p.client?.label, p.client?.why.at(-1)?.rule]).toEqual([asset.name, 'the asset is theirs']);
  });

  it('point out what has perhaps the same cause, and the umbrella that stands for it', async () => {
    const reports = [];
    for (const [i, from] of ['a@mirebank.example', 'b@quillfeather.example', 'c@hollin.example'].entries())
      reports.push(await mail({ from, subject: 'Telephone exchange silent', text: `The telephone exchange is silent since ${i + 7}.` }));
    const found = (await think(reports[2]!.id)).sameCause!;
    expect([found.reports.map((r) => r.number).sort(), found.umbrella]).toEqual([[reports[0]!.number, reports[1]!.number].sort(), null]);
    expect(found.why[1]).toEqual({ rule: 'they share the words', figure: { unit: 'text', value: 'exchange, silent, telephone' } });
    const umbrella = await aoife.do('openUmbrella', {
      body: {
        subject: 'Telephone exchange down',
        kind: 'incident',
        impact: 'everyone',
        urgency: 'stopped',
        deskId: support,
        memberIds: [reports[0]!.id, reports[1]!.id],
        tell: false,
        moveWork: false,
      },
    });
    expect((await think(reports[2]!.id)).sameCause!.umbrella?.number).toBe(umbrella.number);
  });
});

describe('routing', () => {
  it('needs a category that is in use and a line that is staffed', async () => {
    const t = await mail({ from: orla, subject: 'Chair broken', text: 'The chair is broken.' });
    const ask = (more: object) =>
      aoife.ask('triageTicket', {
        params: { ticketId: t.id },
        version: t.version,
        body: {
          impact: 'one',
          urgency: 'hampered',
          kind: 'incident',
          deskId: security,
          line: 'first',
          categoryId: categories['Suspicious mail'],
          clientId: t.clientId,
          contactId: t.contactId,
          assetId: null,
          assigneeId: null,
          ...more,
        },
      });
    expect(detailOf(await ask({ line: 'second' }))).toBe('Nobody staffs the second line of Security.');
    expect(detailOf(await ask({ categoryId: '00000000-0000-4000-8000-000000000000' }))).toBe('There is no such category.');
    expect((await ask({ categoryId: undefined })).status).toBe(422);
    expect((await ask({})).status).toBe(200);
  });

  it('assigns the least loaded who is at work and has the skill, and tells them and the story why', async () => {
    const t = await mail({ from: orla, subject: 'Strange mail asking for vouchers', text: 'Is this real?' });
    const { assignee } = await triage(t, { deskId: security, categoryId: categories['Suspicious mail'] });
    expect(['Ines Valadares', 'Piotr Zaleski']).toContain(assignee);
    const after = await read(t.id);
    expect([after.assignee, after.line, after.category]).toEqual([assignee, 'first', 'Safety, Suspicious mail']);
    const told = after.story.find((s) => s.what.startsWith('routed to Security'))!;
    expect(told.what).toContain(`assigned to ${assignee}`);
    expect(told.detail).toContain('which is the least');
    const person = await world.knex('person').where({ name: assignee }).first('id');
    expect(await world.knex('notice').where({ ticket_id: t.id, person_id: person.id })).toHaveLength(1);
  });

  it('hands over to another line with what was tried, and to nobody without that', async () => {
    const t = await mail({ from: orla, subject: 'Labels again', text: 'They come out half blank.' });
    await triage(t);
    const now = await read(t.id);
    const hand = (body: object) => deepa.ask('handOver', { params: { ticketId: t.id }, version: now.version, body });
    const empty = await hand({ deskId: support, line: 'second', tried: ' ' });
    expect([empty.status, (empty.body as { fields: object }).fields]).toEqual([422, { tried: 'write something' }]);
    expect(detailOf(await hand({ deskId: support, line: 'first', tried: 'all' }))).toBe('It is with that line already.');
    expect((await hand({ deskId: support, line: 'second', tried: 'Driver and cable changed.' })).status).toBe(200);
    const after = await read(t.id);
    expect([after.line, after.messages.at(-1)!.text]).toEqual([
      'second',
      'Handed to Support, second line. Tried so far: Driver and cable changed.',
    ]);
    expect(after.messages.at(-1)!.visibility).toBe('inside');
  });

  it('changes the kind later: closing checks and billing follow, and the story says so', async () => {
    const t = await mail({ from: orla, subject: 'Till drawer', text: 'The drawer is stuck.' });
    await triage(t);
    const remote = (await deepa.do('getHouse')).activities.find((a) => a.name === 'remote')!;
    await deepa.do('addEntry', {
      body: {
        workId: t.id,
        startsAt: '2026-11-24T09:30:00Z',
        duration: '20',
        activityId: remote.id,
        note: 'Oiled',
        billable: true,
        reason: null,
      },
    });
    expect((await read(t.id)).charges).toHaveLength(1);
    await aoife.do('changeKind', { params: { ticketId: t.id }, version: (await read(t.id)).version, body: { kind: 'internal' } });
    const after = await read(t.id);
    expect([after.kind, after.charges, after.obstacles.map((o) => o.check)]).toEqual(['internal', [], []]);
    expect(after.story.slice(-2).map((s) => s.what)).toEqual([
      'changed from incident to internal: its promises, closing checks and billing hold now',
      '1 entry rated anew, 0 kept as decided',
    ]);
    const unsorted = await mail({ from: orla, subject: 'Something', text: 'else' });
    const no = await aoife.ask('changeKind', { params: { ticketId: unsorted.id }, version: unsorted.version, body: { kind: 'alert' } });
    expect(no.status).toBe(409);
  });
});

describe('merging, splitting and moving', () => {
  it('merges a double: its messages stand there, answers to it arrive there, and it can be undone', async () => {
    const [a, b] = [
      await mail({ from: orla, subject: 'Scanner grey', text: 'Grey pages.' }),
      await mail({ from: orla, subject: 'Scanner grey (2)', text: 'Still grey pages!' }),
    ];
    await triage(a);
    await aoife.do('mergeTicket', { params: { ticketId: b.id }, body: { intoId: a.id } });
    const [into, gone] = [await read(a.id), await read(b.id)];
    expect(into.messages.map((m) => m.text.trim())).toEqual(['Grey pages.', 'Still grey pages!']);
    expect([gone.status, gone.outcome, gone.mergedInto?.number, gone.messages]).toEqual(['closed', 'merged', a.number, []]);
    const reopen = await aoife.ask('setTicketStatus', {
      params: { ticketId: b.id },
      version: gone.version,
      body: { status: 'queued', holdReason: null },
    });
    expect(detailOf(reopen)).toContain('take the merge back');
    const { secret } = await world.knex('ticket').where({ id: b.id }).first('secret');
    const late = await mail({ from: orla, subject: `Re: Scanner grey (2) (ref ${b.number}-${secret})`, text: 'Any news?' });
    expect(late.id).toBe(a.id);
    await aoife.do('unmergeTicket', { params: { ticketId: b.id } });
    const back = await read(b.id);
    expect([back.status, back.outcome, back.messages.map((m) => m.text.trim())]).toEqual(['new', null, ['Still grey pages!']]);
    expect((await read(a.id)).messages).toHaveLength(2);
  });

  it('refuses a merge across clients, into itself, and of one that was worked on', async () => {
    const [a, b] = [
      await mail({ from: orla, subject: 'One', text: 'One' }),
      await mail({ from: 'bram.osei@brackwater.example', subject: 'Two', text: 'Two' }),
    ];
    const merge = (from: string, into: string) => aoife.ask('mergeTicket', { params: { ticketId: from }, body: { intoId: into } });
    expect(detailOf(await merge(a.id, b.id))).toBe('They are of two clients, and neither may read the other.');
    expect(detailOf(await merge(a.id, a.id))).toBe('A ticket is no double of itself.');
    const worked = await world.knex('time_entry').whereNull('removed_at').whereNotNull('ticket_id').first('ticket_id', 'client_id');
    const other = await world
      .knex('ticket')
      .where({ client_id: worked.client_id, status: 'queued' })
      .whereNot({ id: worked.ticket_id })
      .whereNull('umbrella_id')
      .first('id');
    expect(detailOf(await merge(worked.ticket_id, other.id))).toContain('Merge the other into it instead.');
  });

  it('splits a message into a ticket of its own that counts from when it came', async () => {
    const t = await mail({ from: orla, subject: 'Printer jams', text: 'The printer jams.' });
    await triage(t);
    world.clock.forward(600);
    const { secret } = await world.knex('ticket').where({ id: t.id }).first('secret');
    const came = world.clock.now();
    const both = await mail({
      from: orla,
      subject: `Re: Printer jams (ref ${t.number}-${secret})`,
      text: 'Also, the phone in room 2 is dead since noon.',
    });
    expect(both.id).toBe(t.id);
    world.clock.forward(300);
    const fresh = await aoife.do('splitMessage', { params: { messageId: both.messages.at(-1)!.id } });
    const [split, old] = [await read(fresh.id), await read(t.id)];
    expect([split.kind, split.linked?.number, Date.parse(split.receivedAt) / 1000]).toEqual(['unsorted', t.number, came]);
    expect(split.subject).toBe('Also, the phone in room 2 is dead since noon');
    expect(split.clocks.find((c) => c.clock === 'triage')!.elapsed).toBe(300);
    expect(old.messages).toHaveLength(1);
    const only = await aoife.ask('splitMessage', { params: { messageId: old.messages[0]!.id } });
    expect(detailOf(only)).toContain('the only message');
  });

  it('moves to another client only after a look at what that shows to whom', async () => {
    const t = await mail({ from: orla, subject: 'Wrong house', text: 'This is about the ferry.' });
    await triage(t);
    const ferry = await world.knex('client').where({ name: 'Brackwater Ferries' }).first('id');
    const { effects } = await aoife.do('checkMove', { params: { ticketId: t.id }, body: { clientId: ferry.id } });
    expect(effects[0]).toBe('Brackwater Ferries could read 1 message of Orla Devane of Hollin Veterinary Group');
    expect(effects.at(-1)).toContain('its promises are those of Brackwater Ferries');
    const now = await read(t.id);
    const move = (seen: boolean) =>
      aoife.ask('moveToClient', { params: { ticketId: t.id }, version: now.version, body: { clientId: ferry.id, contactId: null, seen } });
    expect([(await move(false)).status, (await read(t.id)).client]).toEqual([409, 'Hollin Veterinary Group']);
    expect((await move(true)).status).toBe(200);
    expect((await read(t.id)).client).toBe('Brackwater Ferries');
    const edit = await aoife.ask('editTicket', {
      params: { ticketId: t.id },
      version: (await read(t.id)).version,
      body: {
        subject: 'x',
        clientId: now.clientId,
        contactId: null,
        assetId: null,
        categoryId: now.categoryId,
        impact: null,
        urgency: null,
      },
    });
    expect((edit.body as { fields: object }).fields).toEqual({ clientId: 'move it to another client instead' });
  });
});

describe('categories and lines', () => {
  it('have two levels and names of their own, and are put away from the bottom', async () => {
    const add = (body: object) => aoife.ask('addCategory', { body });
    const printing = categories['Printing and scanning']!;
    expect(detailOf(await add({ name: 'Ink', parentId: printing, skillId: null }))).toBe('Categories have two levels.');
    expect(detailOf(await add({ name: 'devices', parentId: null, skillId: null }))).toBe('There is one of that name already.');
    const vans = await aoife.do('addCategory', { body: { name: 'Vans', parentId: null, skillId: null } });
    const tyres = await aoife.do('addCategory', { body: { name: 'Tyres', parentId: vans.id, skillId: null } });
    const early = await aoife.ask('archiveCategory', { params: { categoryId: vans.id }, version: vans.version });
    expect(detailOf(early)).toBe('Tyres stands under it; put that away first.');
    const renamed = await aoife.do('editCategory', {
      params: { categoryId: tyres.id },
      version: tyres.version,
      body: { name: 'Wheels', parentId: vans.id, skillId: null },
    });
    await aoife.do('archiveCategory', { params: { categoryId: tyres.id }, version: renamed.version });
    expect((await aoife.do('listCategories')).categories.map((c) => c.name)).not.toContain('Wheels');
    expect((await deepa.ask('addCategory', { body: { name: 'X', parentId: null, skillId: null } })).status).toBe(403);
  });

  it('are set as a whole, each line once', async () => {
    const { lines } = await aoife.do('listDeskLines');
    const twice = await aoife.ask('setDeskLines', { body: { lines: [...lines, lines[0]] } });
    expect(detailOf(twice)).toBe('A line of a desk stands there twice.');
    await aoife.do('setDeskLines', { body: { lines: lines.map((l) => ({ ...l, assigns: 'usual technician' })) } });
    expect(new Set((await aoife.do('listDeskLines')).lines.map((l) => l.assigns))).toEqual(new Set(['usual technician']));
    const t = await mail({ from: 'bram.osei@brackwater.example', subject: 'Gate scanner', text: 'It is dead.' });
    const { assignee } = await triage(t, { categoryId: categories['Tills and hand scanners'] });
    expect(['Odalys Figueroa', 'Fionn Hartigan']).toContain(assignee);
  });
});
