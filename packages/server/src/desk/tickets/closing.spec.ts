import type { TicketWire } from '@core/desk';
import { startWorld, until, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let deepa: Script;
let ticketId: string;
beforeAll(async () => {
  world = await startWorld();
  [aoife, deepa] = [await world.as('Aoife'), await world.as('Deepa')];
  const t = await world
    .knex('ticket')
    .where({ status: 'queued', kind: 'incident' })
    .whereNull('reply_owed_since')
    .whereNotNull('contact_id')
    .first('id');
  ticketId = t.id;
  await world.knex('time_entry').where({ ticket_id: ticketId }).update({ removed_at: new Date() });
});
afterAll(() => world.stop());

const read = (): Promise<TicketWire> => aoife.do('getTicket', { params: { ticketId } });
const ways = async () => (await read()).obstacles.map((o) => o.what);
const resolve = async (script: Script, override: string | null = null) =>
  script.ask('setTicketStatus', {
    params: { ticketId },
    version: (await read()).version,
    body: { status: 'resolved', holdReason: null, override },
  });

describe('closing checks', () => {
  it('name what stands in the way, and hold for the page, the API and a reply', async () => {
    await deepa.do('addChecklistItem', { params: { ticketId }, body: { text: 'Label the cable', ownerId: null, dueAt: null } });
    await deepa.do('startTimer', { body: { workId: ticketId } });
    expect(await ways()).toEqual(['not answered: Label the cable', 'the timer of Deepa Raghunathan runs', 'no time is logged']);
    const refused = await resolve(deepa);
    expect([refused.status, (refused.body as { detail: string }).detail]).toEqual([
      409,
      'Something stands in the way before it is resolved: not answered: Label the cable; the timer of Deepa Raghunathan runs; no time is logged.',
    ]);
    const { id } = await deepa.do('replyToTicket', {
      params: { ticketId },
      body: { text: 'It is done.', cc: [], then: 'resolved', seenMessageId: null },
    });
    await until('the reply left', async () => world.knex('message').where({ id }).whereNotNull('left_at').first('id'));
    const now = await read();
    expect(now.status).not.toBe('resolved');
    expect(now.story.some((s) => s.what === 'not resolved as asked with the reply' && s.detail?.includes('Label the cable'))).toBe(true);
  });

  it('are settled one by one, and then the ticket resolves and says when it closes', async () => {
    const t = await read();
    await deepa.do('answerChecklistItem', { params: { checklistItemId: t.checklist[0]!.id }, body: { answer: 'not needed' } });
    const timer = await world.knex('timer').where({ ticket_id: ticketId }).first('id');
    world.clock.forward(900);
    await deepa.do('pauseTimer', { params: { timerId: timer.id } });
    expect(await ways()).toEqual(['no time is logged']);
    const remote = (await deepa.do('getHouse')).activities.find((a) => a.name === 'remote')!;
    await deepa.do('addEntry', {
      body: {
        workId: ticketId,
        startsAt: new Date((world.clock.now() - 900) * 1000).toISOString().replace('.000', ''),
        duration: '15',
        activityId: remote.id,
        note: 'Cable relabelled',
        billable: true,
        reason: null,
      },
    });
    expect(await ways()).toEqual([]);
    const resolved = await resolve(deepa);
    expect(resolved.status).toBe(200);
    expect((await read()).closesAt).toBe('2026-12-01T10:55:00Z');
  });

  it('are passed only by who may, with a reason that stays on record', async () => {
    await deepa.do('setTicketStatus', {
      params: { ticketId },
      version: (await read()).version,
      body: { status: 'queued', holdReason: null },
    });
    await deepa.do('addChecklistItem', { params: { ticketId }, body: { text: 'Order a spare', ownerId: null, dueAt: null } });
    const no = await resolve(deepa, 'they are in a hurry');
    expect([no.status, (no.body as { detail: string }).detail]).toEqual([
      403,
      expect.stringContaining('may not move tickets past closing checks'),
    ]);
    expect((await resolve(aoife, 'the spare is ordered by the client')).status).toBe(200);
    const [kept] = await world.knex('closing_override').where({ ticket_id: ticketId });
    expect([kept.who, kept.who_name, kept.reason, kept.obstacles]).toEqual([
      'person',
      'Aoife Brannigan',
      'the spare is ordered by the client',
      [{ move: 'resolved', check: 'open checklist items', what: 'not answered: Order a spare', id: expect.any(String) }],
    ]);
    expect((await read()).story.some((s) => s.what.startsWith('resolved past closing checks'))).toBe(true);
    await expect(world.knex('closing_override').delete()).rejects.toThrow('append-only');
  });

  it('ask whether a booking that is over happened', async () => {
    const t = await world.knex('ticket').where({ status: 'queued' }).whereNot({ id: ticketId }).whereNotNull('contact_id').first('id');
    const dispatcher = await world.as('Tomasz');
    const person = await world.knex('person').where({ name: 'Deepa Raghunathan' }).first('id');
    const startsAt = new Date((world.clock.now() + 600) * 1000).toISOString().replace('.000', '');
    const booking = await dispatcher.do('book', { body: { workId: t.id, personId: person.id, startsAt, minutes: 30 } });
    const of = async () =>
      (await aoife.do('getTicket', { params: { ticketId: t.id } })).obstacles.filter((o) => o.check === 'open bookings');
    expect(await of()).toEqual([
      { move: 'resolved', check: 'open bookings', what: 'a coming booking of Deepa Raghunathan is still open', id: booking.id },
    ]);
    world.clock.forward(3600);
    expect((await of())[0]!.what).toBe('a past booking of Deepa Raghunathan is still open');
  });

  it('writes what was done, with a version', async () => {
    const t = await read();
    const done = await deepa.do('setResolution', { params: { ticketId }, version: t.version, body: { resolution: 'Cable relabelled.' } });
    expect((await read()).resolution).toBe('Cable relabelled.');
    const stale = await deepa.ask('setResolution', { params: { ticketId }, version: t.version, body: { resolution: 'Other' } });
    expect([stale.status, done.version]).toEqual([412, t.version + 1]);
  });
});

describe('things to do', () => {
  it('are refused for who is nobody, and told in the story', async () => {
    const body = { text: 'Measure', ownerId: '00000000-0000-4000-8000-000000000000', dueAt: null };
    const refused = await deepa.ask('addChecklistItem', { params: { ticketId }, body });
    expect([refused.status, (refused.body as { fields: object }).fields]).toEqual([422, { ownerId: 'choose one of the people' }]);
    const owner = await world.knex('person').where({ name: 'Sora Minegishi' }).first('id');
    await deepa.do('addChecklistItem', { params: { ticketId }, body: { ...body, ownerId: owner.id, dueAt: '2026-11-25T09:00:00Z' } });
    const t = await read();
    expect(t.checklist.at(-1)).toMatchObject({ text: 'Measure', owner: 'Sora Minegishi', dueAt: '2026-11-25T09:00:00Z' });
    expect(t.story.at(-1)!.what).toBe('added "Measure" to the checklist for Sora Minegishi');
  });
});
