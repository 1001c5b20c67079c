import type { IntegrityWire, MemberWire, TicketWire } from '@core/desk';
import { tokenOf } from '../../house/access/secret-address';
import { startWorld, until, type Script, type World, postMail } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let deepa: Script;
beforeAll(async () => {
  world = await startWorld();
  [aoife, deepa] = [await world.as('Aoife'), await world.as('Deepa')];
});
afterAll(() => world.stop());

interface Row {
  readonly id: string;
  readonly number: number;
  readonly client: string;
  readonly email: string;
}
const read = (ticketId: string): Promise<TicketWire> => aoife.do('getTicket', { params: { ticketId } });
const members = async (ticketId: string): Promise<MemberWire[]> => (await aoife.do('listMembers', { params: { ticketId } })).members;
const check = (): Promise<IntegrityWire> => aoife.do('checkUmbrellas');
const support = async () => (await aoife.do('getHouse')).desks.find((d) => d.name === 'Support')!.id;
const mailsTo = async (email: string) => {
  const mails = await world.mailbox();
  return mails.filter((m) => m.way === 'received' && m.to.some((t) => t.includes(email)));
};
const clockOf = (t: TicketWire, name: string) => t.clocks.find((c) => c.clock === name)!;

/** Tickets of two clients that are open and under no umbrella, the newest first. */
async function someTickets(client: string, n: number): Promise<Row[]> {
  return world
    .knex('ticket as t')
    .join('client as c', 'c.id', 't.client_id')
    .join('contact as k', 'k.id', 't.contact_id')
    .where('c.name', client)
    .where('t.status', 'queued')
    .whereNull('t.umbrella_id')
    .where('t.is_umbrella', false)
    .orderBy('t.number', 'desc')
    .limit(n)
    .select('t.id', 't.number', 'c.name as client', 'k.email');
}

/** An open ticket each of two clients. */
async function ofTwoClients(): Promise<Row[]> {
  const names: string[] = await world
    .knex('ticket as t')
    .join('client as c', 'c.id', 't.client_id')
    .join('contact as k', 'k.id', 't.contact_id')
    .where('t.status', 'queued')
    .whereNull('t.umbrella_id')
    .where('t.is_umbrella', false)
    .groupBy('c.name')
    .orderByRaw('count(*) desc, c.name')
    .limit(2)
    .pluck('c.name');
  return [...(await someTickets(names[0]!, 1)), ...(await someTickets(names[1]!, 1))];
}

async function open(rows: readonly Row[], more: object = {}): Promise<{ id: string; number: number; told: number }> {
  const form = {
    subject: 'Harbour link down',
    kind: 'incident',
    impact: 'everyone',
    urgency: 'stopped',
    deskId: await support(),
    moveWork: true,
    tell: false,
  };
  return aoife.do('openUmbrella', { body: { ...form, memberIds: rows.map((r) => r.id), ...more } });
}

async function answer(row: Row, text: string): Promise<void> {
  const t = await world.knex('ticket').where({ id: row.id }).first('number', 'secret', 'subject');
  await postMail(world.running.smtpPort, {
    from: row.email,
    to: 'desk@pellworth.example',
    subject: `Re: ${t.subject} (ref ${t.number}-${t.secret})`,
    text,
  });
}

describe('an umbrella', () => {
  it('holds every clock of its members, counts from the earliest receipt, and belongs to us over several clients', async () => {
    const rows = [...(await someTickets('Brackwater Ferries', 2)), ...(await someTickets('Hollin Veterinary Group', 1))];
    const opened = await open(rows, { tell: true });
    expect(opened.told).toBe(3);
    for (const row of rows) {
      const t = await read(row.id);
      expect([t.status, t.holdReason, t.umbrella?.number]).toEqual(['on hold', 'umbrella', opened.number]);
      expect(t.clocks.filter((c) => ['running', 'missed and running'].includes(c.state) && !c.holding)).toEqual([]);
    }
    const umbrella = await read(opened.id);
    const received = await Promise.all(rows.map(async (r) => (await read(r.id)).receivedAt));
    expect([umbrella.isUmbrella, umbrella.client, umbrella.receivedAt]).toEqual([true, null, received.sort()[0]]);
    expect(clockOf(umbrella, 'resolution').why.some((s) => s.rule.includes('received earlier joined'))).toBe(true);
    expect(await check()).toEqual({ umbrellas: 2, members: 12, findings: [] });
    await until('the three are told', async () => (await Promise.all(rows.map((r) => mailsTo(r.email)))).every((m) => m.length > 0));
    expect((await mailsTo(rows[0]!.email))[0]!.text).toMatch(/\/follow\/[\w-]{24}/);
    expect(
      await world
        .knex('ticket_fact')
        .where({ ticket_id: rows[0]!.id, fact: 'public-contact' })
        .where('at', '>=', new Date(world.clock.now() * 1000)),
    ).toEqual([]);
  });

  it('refuses a member twice, an umbrella as member and what has ended, all or nothing', async () => {
    const umbrella = (await aoife.do('listUmbrellas')).umbrellas[0]!;
    const member = (await members(umbrella.id))[0]!;
    const ended = await world.knex('ticket').where({ status: 'closed' }).first('id', 'number');
    const free = (await someTickets('Quillfeather Press', 1))[0]!;
    for (const [id, why] of [
      [member.id, 'is a member of an umbrella already'],
      [umbrella.id, 'is an umbrella itself'],
      [ended.id, 'is closed'],
    ] as const) {
      const refused = await aoife.ask('joinUmbrella', {
        params: { ticketId: umbrella.id },
        body: { memberIds: [free.id, id], tell: false, moveWork: false },
      });
      expect([refused.status, (refused.body as { detail: string }).detail]).toEqual([422, expect.stringContaining(why)]);
    }
    expect((await read(free.id)).umbrella).toBeNull();
    const byHand = await aoife.ask('setTicketStatus', {
      params: { ticketId: member.id },
      version: (await read(member.id)).version,
      body: { status: 'underway', holdReason: null },
    });
    expect([byHand.status, (byHand.body as { detail: string }).detail]).toEqual([409, expect.stringContaining('Detach it first')]);
  });

  it('shows what clients of members write and owes the reply, until each is answered', async () => {
    const umbrella = (await aoife.do('listUmbrellas')).umbrellas[0]!;
    await aoife.do('updateMembers', {
      params: { ticketId: umbrella.id },
      body: { text: 'Hello {first name}, we look into it.', memberIds: (await members(umbrella.id)).map((m) => m.id), asks: false },
    });
    await until('nothing is owed', async () => (await read(umbrella.id)).replyOwedSince === null);
    const [first] = await members(umbrella.id);
    const row = { ...first!, email: (await read(first!.id)).contactEmail! } as unknown as Row;
    await answer(row, 'When will it be?');
    const owed = await until('it surfaces', async () => {
      const t = await read(umbrella.id);
      return t.replyOwedSince ? t : undefined;
    });
    expect(owed.replyOwedBy).toBe(first!.contact);
    expect((await read(first!.id)).status).toBe('on hold');
    expect((await aoife.do('listTickets', { query: { owed: 'yes' } })).rows.map((r) => r.id)).toContain(umbrella.id);
    expect(owed.obstacles).toContainEqual({
      move: 'resolved',
      check: 'unanswered message',
      what: `#${first!.number} of ${first!.client}: the client waits for an answer`,
      id: first!.id,
    });
    await aoife.do('waiveReply', { params: { ticketId: first!.id }, body: { reason: 'told on the phone' } });
    expect((await read(umbrella.id)).replyOwedSince).toBeNull();
  });

  it('writes to all in their own threads, which answers each, and never names another client', async () => {
    const umbrella = (await aoife.do('listUmbrellas')).umbrellas[0]!;
    const all = await members(umbrella.id);
    const body = { text: 'Hello {first name}, the link of {client} is back at noon.', memberIds: all.map((m) => m.id), asks: false };
    const preview = await aoife.do('previewUpdate', { params: { ticketId: umbrella.id }, body });
    expect(preview.mails.map((m) => m.text)).toEqual(
      preview.mails.map((m) => `Hello ${m.contact.split(' ')[0]}, the link of ${m.client} is back at noon.`),
    );
    expect(preview.mails.flatMap((m) => m.trouble)).toEqual([]);
    const naming = await aoife.ask('updateMembers', {
      params: { ticketId: umbrella.id },
      body: { ...body, text: 'It also hits Hollin Veterinary Group. {weather}' },
    });
    expect([naming.status, (naming.body as { fields: { text: string } }).fields.text]).toEqual([
      422,
      "{weather} stands for nothing; it names Hollin Veterinary Group, who are somebody else's business",
    ]);
    const before = (await mailsTo(preview.mails[0]!.to)).length;
    await aoife.do('updateMembers', { params: { ticketId: umbrella.id }, body });
    await until('it left', async () => (await mailsTo(preview.mails[0]!.to)).length > before);
    await until('all are answered', async () =>
      (await Promise.all(all.map((m) => read(m.id)))).every((t) => ['met', 'missed and ended'].includes(clockOf(t, 'response').state)),
    );
    expect((await check()).findings).toEqual([]);
  });

  it('asks whether it is back, and takes the answer by a press in the mail, not by a look at it', async () => {
    const umbrella = (await aoife.do('listUmbrellas')).umbrellas[0]!;
    const [yes, no] = await members(umbrella.id);
    await aoife.do('updateMembers', {
      params: { ticketId: umbrella.id },
      body: { text: 'We think it is back.', memberIds: [yes!.id, no!.id], asks: true },
    });
    const link = async (m: MemberWire, which: 'yes' | 'no') => {
      const email = (await read(m.id)).contactEmail!;
      const mail = await until('the question', async () =>
        (await mailsTo(email)).find((x) => x.text.includes('Is it back for you?') && x.subject.includes(String(m.number))),
      );
      return new URL(new RegExp(`http\\S+/${which}`).exec(mail.text)![0]).pathname;
    };
    const page = await fetch(world.base + (await link(yes!, 'yes')));
    expect([page.status, await page.text()]).toEqual([200, expect.stringContaining('Yes, it is back for me')]);
    const answers = async () => (await members(umbrella.id)).slice(0, 9).map((m) => [m.id, m.back] as const);
    expect((await answers()).every(([, back]) => back === null)).toBe(true);
    const press = async (path: string) => fetch(world.base + path, { method: 'POST', redirect: 'manual' });
    expect((await press(await link(yes!, 'yes'))).status).toBe(303);
    expect((await press(await link(no!, 'no'))).status).toBe(303);
    expect((await press(await link(no!, 'no'))).status).toBe(303);
    expect(Object.fromEntries(await answers())).toMatchObject({ [yes!.id]: 'yes', [no!.id]: 'no' });
    expect((await read(umbrella.id)).replyOwedBy).toBe(no!.contact);
    const said = (await read(umbrella.id)).story.find((s) => s.what === `says it is not back (#${no!.number})`)!;
    expect([said.who, said.via]).toEqual([no!.contact, 'page']);
    expect(await world.knex('message').where({ ticket_id: no!.id, via: 'link' })).toHaveLength(1);
    const madeUp = await press((await link(no!, 'no')).replace(/follow\/[^/]+/, `follow/${'a'.repeat(24)}`));
    expect(madeUp.status).toBe(404);
  });

  it('has a page for each contact that stays true and shows nothing of others', async () => {
    const umbrella = (await aoife.do('listUmbrellas')).umbrellas[0]!;
    const all = await members(umbrella.id);
    const me = all.find((m) => m.client === 'Hollin Veterinary Group')!;
    await deepa.do('addNote', { params: { ticketId: me.id }, body: { text: 'Between us: the cable is chewed.' } });
    const { nonce } = await world.knex('status_link').where({ ticket_id: me.id }).first('nonce');
    const token = tokenOf(world.running.app, 'follow', nonce);
    const page = async () => (await fetch(`${world.base}/follow/${token}`)).text();
    const before = await page();
    expect(before).toContain('together with other reports of the same cause. It is in our queue.');
    expect(before).toContain('the link of Hollin Veterinary Group is back at noon');
    for (const hidden of ['Brackwater', 'chewed', 'Harbour link down', 'Deepa']) expect(before).not.toContain(hidden);
    const t = await read(umbrella.id);
    await aoife.do('setTicketStatus', {
      params: { ticketId: t.id },
      version: t.version,
      body: { status: 'on hold', holdReason: 'supplier' },
    });
    expect(await page()).toContain('It waits for a supplier.');
    expect((await fetch(`${world.base}/follow/${'x'.repeat(24)}`)).status).toBe(404);
    // Kept as a hash alone, and worth nothing once it is revoked.
    expect(JSON.stringify(await world.knex('status_link'))).not.toContain(token);
    expect((await read(me.id)).hasOwnPage).toBe(true);
    expect((await aoife.do('revokeOwnPage', { params: { ticketId: me.id } })).revoked).toBe(1);
    expect((await fetch(`${world.base}/follow/${token}`)).status).toBe(404);
  });

  it('gives a member back its own status and clocks when it is detached', async () => {
    const umbrella = (await aoife.do('listUmbrellas')).umbrellas[0]!;
    const free = (await someTickets('Quillfeather Press', 1))[0]!;
    const [own] = await world.knex('own_status').insert({ name: 'drying', stands_for: 'queued' }).returning('id');
    await world.knex('ticket').where({ id: free.id }).update({ own_status_id: own.id });
    const before = await read(free.id);
    await aoife.do('joinUmbrella', { params: { ticketId: umbrella.id }, body: { memberIds: [free.id], tell: false, moveWork: true } });
    expect((await read(free.id)).ownStatus).toBeNull();
    world.clock.forward(3600);
    await aoife.do('detachMember', { params: { ticketId: free.id } });
    const after = await read(free.id);
    expect([after.status, after.ownStatus, after.holdReason, after.assigneeId, after.umbrella]).toEqual([
      before.status,
      'drying',
      before.holdReason,
      before.assigneeId,
      null,
    ]);
    const seconds = (t: TicketWire) => clockOf(t, 'resolution').elapsed;
    expect(seconds(after)).toBe(seconds(before));
    expect((await aoife.ask('detachMember', { params: { ticketId: free.id } })).status).toBe(409);
    const again = { memberIds: [free.id], tell: false, moveWork: false };
    await aoife.do('joinUmbrella', { params: { ticketId: umbrella.id }, body: again });
    expect((await members(umbrella.id)).filter((m) => m.id === free.id).map((m) => m.ended)).toEqual([null]);
    await aoife.do('detachMember', { params: { ticketId: free.id } });
    expect((await members(umbrella.id)).filter((m) => m.id === free.id).map((m) => m.ended)).toEqual(['detached']);
    expect((await check()).findings).toEqual([]);
  });

  it('moves bookings and who has it on confirmation', async () => {
    const [row] = await someTickets('Quillfeather Press', 1);
    const dispatcher = await world.as('Tomasz');
    const person = await world.knex('person').where({ name: 'Sora Minegishi' }).first('id');
    const startsAt = new Date((world.clock.now() + 7200) * 1000).toISOString().replace('.000', '');
    await dispatcher.do('book', { body: { workId: row!.id, personId: person.id, startsAt, minutes: 30 } });
    const umbrella = await open([row!]);
    const [u, m] = [await read(umbrella.id), await read(row!.id)];
    expect([u.bookings.map((b) => b.person), m.bookings, m.assignee]).toEqual([['Sora Minegishi'], [], null]);
    expect(u.client).toBe('Quillfeather Press');
    const no = await dispatcher.ask('book', { body: { workId: row!.id, personId: person.id, startsAt, minutes: 30 } });
    expect([no.status, (no.body as { detail: string }).detail]).toEqual([409, expect.stringContaining('Detach it first')]);
    const remote = (await deepa.do('getHouse')).activities.find((a) => a.name === 'remote')!;
    const worked = new Date((world.clock.now() - 3600) * 1000).toISOString().replace('.000', '');
    await deepa.do('addEntry', {
      body: {
        workId: umbrella.id,
        startsAt: worked,
        duration: '30',
        activityId: remote.id,
        note: 'Looked',
        billable: true,
        reason: null,
      },
    });
    const charged = async () => (await read(umbrella.id)).charges.length;
    expect(await charged()).toBe(1);
    const [other] = await someTickets('Mirebank Schools', 1);
    await aoife.do('joinUmbrella', { params: { ticketId: umbrella.id }, body: { memberIds: [other!.id], tell: false, moveWork: false } });
    // Over two clients it is nobody's, also what was worked before.
    expect([(await read(umbrella.id)).client, await charged()]).toEqual([null, 0]);
    await aoife.do('detachMember', { params: { ticketId: row!.id } });
    expect(await charged()).toBe(1);
    expect([(await read(umbrella.id)).client, (await read(row!.id)).status]).toEqual(['Mirebank Schools', 'queued']);
  });

  it('is resolved with its members at their held elapsed times, and a member that reopens runs on from there', async () => {
    const rows = await ofTwoClients();
    const umbrella = await open(rows);
    const held = await Promise.all(rows.map(async (r) => clockOf(await read(r.id), 'resolution').elapsed));
    world.clock.forward(30 * 86_400);
    const resolve = async (override: string | null) =>
      aoife.ask('setTicketStatus', {
        params: { ticketId: umbrella.id },
        version: (await read(umbrella.id)).version,
        body: { status: 'resolved', holdReason: null, override },
      });
    await aoife.do('setResolution', {
      params: { ticketId: umbrella.id },
      version: (await read(umbrella.id)).version,
      body: { resolution: 'The link has a new cable.' },
    });
    expect((await resolve('the clients were told by phone')).status).toBe(200);
    for (const [i, row] of rows.entries()) {
      const t = await read(row.id);
      expect([t.status, t.outcome, t.umbrella, t.resolution]).toEqual(['resolved', 'solved', null, 'The link has a new cable.']);
      expect([clockOf(t, 'resolution').elapsed, clockOf(t, 'resolution').state]).toEqual([held[i], 'met']);
    }
    expect((await members(umbrella.id)).map((m) => m.ended)).toEqual(['resolved', 'resolved']);
    await answer(rows[0]!, 'It is broken again, please look.');
    const again = await until('it reopened', async () => {
      const t = await read(rows[0]!.id);
      return t.status === 'queued' ? t : undefined;
    });
    expect([clockOf(again, 'resolution').elapsed, again.replyOwedSince !== null]).toEqual([held[0], true]);
    expect((await read(umbrella.id)).replyOwedSince).toBeNull();
    expect((await check()).findings).toEqual([]);
  });

  it('gives back every member that went with it when its resolving is undone, but for who has moved on since', async () => {
    const rows = await ofTwoClients();
    const unsorted = await world.knex('ticket').where({ kind: 'unsorted', status: 'new' }).whereNull('umbrella_id').first('id');
    const umbrella = await open(rows, { memberIds: [...rows.map((r) => r.id), unsorted.id] });
    const ids = [umbrella.id, ...rows.map((r) => r.id), unsorted.id];
    const standing = async () => [
      (await world.knex('ticket').whereIn('id', ids).orderBy('number')).map(({ version: _, changed_at: __, ...rest }) => rest),
      await world.knex('membership').whereIn('ticket_id', ids).orderBy('id'),
      await world.knex('ticket_clock').whereIn('ticket_id', ids).orderBy(['ticket_id', 'clock']),
    ];
    const before = await standing();
    const resolve = async () =>
      aoife.do('setTicketStatus', {
        params: { ticketId: umbrella.id },
        version: (await read(umbrella.id)).version,
        body: { status: 'resolved', holdReason: null, override: 'told by phone' },
      });
    const undo = (version: number) => aoife.do('undoTicketMove', { params: { ticketId: umbrella.id }, version });
    const { version } = await resolve();
    expect((await read(unsorted.id)).kind).toBe('incident');
    await undo(version);
    expect(await standing()).toEqual(before);
    expect((await aoife.do('getTicket', { params: { ticketId: unsorted.id } })).story.map((s) => s.what)).toContain(
      `under umbrella #${umbrella.number} again, whose resolving was undone`,
    );
    world.clock.forward(60);
    const again = await resolve();
    await answer(rows[0]!, 'It is broken again, please look.');
    await until('it reopened', async () => (await read(rows[0]!.id)).status === 'queued');
    await undo(again.version);
    expect([(await read(rows[0]!.id)).umbrella, (await read(rows[1]!.id)).umbrella?.number]).toEqual([null, umbrella.number]);
    expect((await check()).findings).toEqual([]);
  });

  it('charges nobody over several clients, unless its time is shared out by hand at the rates of each', async () => {
    const rows = await ofTwoClients();
    const umbrella = await open(rows);
    const remote = (await deepa.do('getHouse')).activities.find((a) => a.name === 'remote')!;
    const startsAt = new Date((world.clock.now() - 7200) * 1000).toISOString().replace('.000', '');
    const entry = await deepa.do('addEntry', {
      body: { workId: umbrella.id, startsAt, duration: '50', activityId: remote.id, note: 'Spliced it', billable: true, reason: null },
    });
    const shared = () => world.knex('charge').where({ shared_from: entry.id }).orderBy('quantity');
    expect(await world.knex('charge').where({ time_entry_id: entry.id })).toEqual([]);
    const parts = [
      { ticketId: rows[0]!.id, minutes: 20 },
      { ticketId: rows[1]!.id, minutes: 31 },
    ];
    const much = await aoife.ask('shareEntry', { params: { entryId: entry.id }, body: { parts } });
    expect([much.status, (much.body as { fields: object }).fields]).toEqual([422, { parts: 'at most 50 min in all' }]);
    parts[1]!.minutes = 30;
    await aoife.do('shareEntry', { params: { entryId: entry.id }, body: { parts } });
    await aoife.do('shareEntry', { params: { entryId: entry.id }, body: { parts } });
    const charges = await shared();
    expect(charges.map((c) => [Number(c.quantity), c.ticket_id])).toEqual(parts.map((p) => [p.minutes, p.ticketId]));
    expect(JSON.stringify(charges)).not.toContain('Spliced');
    await aoife.do('decideCharge', {
      params: { chargeId: charges[0]!.id },
      version: charges[0]!.version,
      body: { decision: 'approve', reason: null, quantity: null, unitPrice: null, description: null, until: null },
    });
    expect((await aoife.ask('shareEntry', { params: { entryId: entry.id }, body: { parts } })).status).toBe(409);
    expect((await deepa.ask('shareEntry', { params: { entryId: entry.id }, body: { parts } })).status).toBe(403);
  });

  it('holds an unsorted report as well, which is unsorted again when it is detached', async () => {
    const lying = await world.knex('ticket').where({ kind: 'unsorted', status: 'new' }).whereNotNull('contact_id').first('id', 'number');
    const umbrella = (await aoife.do('listUmbrellas')).umbrellas[0]!;
    await aoife.do('joinUmbrella', { params: { ticketId: umbrella.id }, body: { memberIds: [lying.id], tell: false, moveWork: true } });
    const unsorted = async () => (await aoife.do('listTickets', { query: { state: 'unsorted' } })).rows.map((r) => r.id);
    expect([await unsorted(), (await read(lying.id)).replyOwedSince]).toEqual([expect.not.arrayContaining([lying.id]), expect.any(String)]);
    await aoife.do('detachMember', { params: { ticketId: lying.id } });
    const back = await read(lying.id);
    expect([await unsorted(), back.status, back.replyOwedSince]).toEqual([expect.arrayContaining([lying.id]), 'new', null]);
  });
});

describe('answers that leave at once', () => {
  it('leave nothing owed on the umbrella, however they interleave', async () => {
    const rows = await ofTwoClients();
    const umbrella = await open(rows);
    for (let round = 0; round < 5; round++) {
      for (const row of rows) await answer(row, `Round ${round}: is it back?`);
      expect((await read(umbrella.id)).replyOwedSince).not.toBeNull();
      await aoife.do('updateMembers', {
        params: { ticketId: umbrella.id },
        body: { text: `Not yet, ${round}.`, memberIds: rows.map((r) => r.id), asks: false },
      });
      await until('nothing is owed', async () => (await read(umbrella.id)).replyOwedSince === null);
    }
    expect((await check()).findings).toEqual([]);
  });
});

describe('the integrity check', () => {
  it('finds a clock that runs and a reply that is hidden, where a row was changed behind our back', async () => {
    const [row] = await someTickets('Quillfeather Press', 1);
    const umbrella = await open([row!]);
    await world.knex('ticket_clock').where({ ticket_id: row!.id }).update({ due_at: new Date() });
    await world.knex('ticket').where({ id: umbrella.id }).update({ reply_owed_since: null });
    await world
      .knex('ticket')
      .where({ id: row!.id })
      .update({ reply_owed_since: new Date(0) });
    const { findings } = await check();
    expect(new Set(findings.map((f) => f.check))).toEqual(new Set(['running clock', 'hidden reply', 'stale clock']));
    expect(findings[0]!.what).toBe(`#${row!.number}: a member's clock runs`);
  });
});
