import { tokenOf } from '../../house/access/secret-address';
import { detailOf, startWorld, until, type Script, type World } from '../../../testing/test-server';

let world: World;
let tomasz: Script;
beforeAll(async () => {
  world = await startWorld();
  tomasz = await world.as('Tomasz');
});
afterAll(() => world.stop());

/** Unbooked work with somebody to write to. */
async function waiting(more: Record<string, string> = {}): Promise<{ ticketId: string; number: number }> {
  const { work } = await tomasz.do('listUnbooked', { query: { notHeld: 'yes', ...more } });
  for (const w of work)
    if (w.status === 'queued' && (await world.knex('ticket').where({ id: w.workId }).first('contact_id')).contact_id)
      return { ticketId: w.workId, number: w.number! };
  throw new Error('the demo has no unbooked work with a contact');
}
const propose = async (ticketId: string) => (await tomasz.do('proposeOpenings', { params: { ticketId } })).openings;
async function offer(ticketId: string, heldHours = 4) {
  const openings = (await propose(ticketId)).map(({ personId, startsAt, minutes }) => ({ personId, startsAt, minutes }));
  return { openings, ...(await tomasz.do('offerOpenings', { params: { ticketId }, body: { openings, heldHours, onSite: false } })) };
}
const held = (setId: string) => world.knex('booking').where({ opening_set_id: setId }).orderBy('starts_at').select();
const stateOf = async (setId: string) => (await world.knex('opening_set').where({ id: setId }).first('state')).state as string;
const pageOf = async (setId: string) =>
  `${world.base}/openings/${tokenOf(world.running.app, 'openings', (await world.knex('opening_set').where({ id: setId }).first('nonce')).nonce)}`;
const press = (page: string, take: string) => fetch(page, { method: 'POST', body: new URLSearchParams({ take }), redirect: 'manual' });
async function mailOf(setId: string) {
  const token = (await pageOf(setId)).split('/').at(-1)!;
  return until('the mail with the openings', async () => (await world.mailbox()).find((m) => m.text.includes(token)));
}

describe('openings', () => {
  it('are three, two hours apart, later than now, held at once, and mailed; a press takes one and frees the others', async () => {
    const { ticketId, number } = await waiting();
    const made = await offer(ticketId);
    expect(made.openings).toHaveLength(3);
    const starts = made.openings.map((o) => Date.parse(o.startsAt));
    expect(starts[0]).toBeGreaterThanOrEqual(world.clock.now() * 1000 + 7_200_000);
    for (const [a, b] of [
      [0, 1],
      [1, 2],
    ] as const)
      expect(starts[b]! - starts[a]!).toBeGreaterThanOrEqual(7_200_000);
    const bookings = await held(made.id);
    expect(bookings.map((b) => [b.state, b.tentative])).toEqual(Array(3).fill(['planned', true]));
    // On lanes they show as held; the work waits for no dispatcher meanwhile, and is not booked either.
    const day = made.openings[0]!.startsAt.slice(0, 10);
    const lane = (await tomasz.do('getDispatch', { query: { day } })).lanes.find((l) => l.personId === made.openings[0]!.personId)!;
    const lastCall = new Date(Math.min(starts[0]! - 1_800_000, Date.parse(made.heldUntil))).toISOString().replace('.000', '');
    expect(lane.bookings.find((b) => b.id === bookings[0].id)!.held).toEqual({ setId: made.id, until: lastCall });
    expect((await world.knex('ticket').where({ id: ticketId }).first('status')).status).toBe('queued');
    const page = await pageOf(made.id);
    const mail = await mailOf(made.id);
    expect(mail.text).toContain(page.replace(world.base, 'http://127.0.0.1'));
    expect(mail.subject).toContain(String(number));
    // Opening it, even often, takes nothing.
    for (let n = 0; n < 2; n++) expect(await (await fetch(page)).text()).toContain('Which of these suits you best');
    expect(await stateOf(made.id)).toBe('open');
    const taken = await press(page, bookings[1].id);
    expect([taken.status, taken.headers.get('location')]).toEqual([303, new URL(page).pathname]);
    expect((await held(made.id)).map((b) => [b.state, b.tentative, b.fixed])).toEqual([
      ['cancelled', true, false],
      ['planned', false, true],
      ['cancelled', true, false],
    ]);
    const ticket = await world.knex('ticket').where({ id: ticketId }).first('status', 'assignee_id');
    expect(ticket.status).toBe('booked');
    const contact = await world
      .knex('ticket as t')
      .join('contact as k', 'k.id', 't.contact_id')
      .where('t.id', ticketId)
      .first('k.id', 'k.name');
    expect(await world.knex('event').where({ ticket_id: ticketId, type: 'ticket.opening-taken' })).toMatchObject([
      { who: 'contact', who_id: contact.id, who_name: contact.name, via: 'page' },
    ]);
    expect(await (await fetch(page)).text()).toContain('Booked: ');
    const sure = await until('the confirmation', async () =>
      (await world.mailbox()).find((m) => m.subject.includes(String(number)) && m.attachments.includes('appointment.ics')),
    );
    expect(sure.text).toContain('We have made an appointment');
    const notice = await world.knex('notice').where({ ticket_id: ticketId }).whereLike('text', '%the client took%').first('text');
    expect(notice).toBeDefined();
    // A second press, on what is free no more, changes nothing.
    const again = await press(page, bookings[0].id);
    expect([again.status, await again.text()]).toEqual([409, expect.stringContaining('A time is taken already.')]);
    expect((await held(made.id)).filter((b) => b.state === 'planned')).toHaveLength(1);
  });

  it('count the first of two presses at once', async () => {
    const { ticketId } = await waiting();
    const made = await offer(ticketId);
    const bookings = await held(made.id);
    const page = await pageOf(made.id);
    const pressed = await Promise.all(bookings.map((b) => press(page, b.id)));
    expect(pressed.map((p) => p.status).sort()).toEqual([303, 409, 409]);
    expect((await held(made.id)).filter((b) => b.state === 'planned')).toHaveLength(1);
  });

  it('are let go when nobody answers in time, each at its own last call too, and when none suits', async () => {
    const first = await waiting();
    const made = await offer(first.ticketId, 1);
    world.clock.forward(3601);
    await until('letting go', async () => (await stateOf(made.id)) === 'lapsed');
    expect((await held(made.id)).every((b) => b.state === 'cancelled')).toBe(true);
    expect(await (await fetch(await pageOf(made.id))).text()).toContain('no longer held for you');
    expect((await press(await pageOf(made.id), (await held(made.id))[0].id)).status).toBe(409);
    const near = await offer(first.ticketId, 48);
    const begins = (await held(near.id))[0].starts_at as number;
    world.clock.forward(begins - 1799 - world.clock.now());
    await until('its own last call', async () => (await held(near.id))[0].state === 'cancelled');
    expect([await stateOf(near.id), (await held(near.id))[1].state]).toEqual(['open', 'planned']);
    const none = await press(await pageOf(near.id), 'none');
    expect([none.status, await none.text()]).toEqual([200, expect.stringContaining('Thank you for letting us know')]);
    expect([await stateOf(near.id), (await held(near.id)).filter((b) => b.state === 'planned')]).toEqual(['declined', []]);
    expect((await tomasz.do('listUnbooked', { query: {} })).work.map((w) => w.workId)).toContain(first.ticketId);
  });

  it('are not offered where somebody is no longer free, knows not how, or nobody can be written to; then nothing is held', async () => {
    const { ticketId } = await waiting();
    const [one] = await propose(ticketId);
    const other = await waiting({ q: '' });
    const slot = { personId: one!.personId, startsAt: one!.startsAt, minutes: one!.minutes };
    const count = async () => Number((await world.knex('booking').whereNotNull('opening_set_id').count('* as n').first())!['n']);
    const before = await count();
    await tomasz.do('book', { body: { workId: other.ticketId, ...slot, tentative: true } });
    const openings = [slot];
    const late = await tomasz.ask('offerOpenings', { params: { ticketId }, body: { openings, heldHours: 4, onSite: false } });
    expect([late.status, detailOf(late)]).toEqual([409, expect.stringContaining('is not free any more')]);
    for (const body of [
      { openings: [], heldHours: 4, onSite: false },
      { openings, heldHours: 5, onSite: false },
      { openings, heldHours: 4 },
    ])
      expect((await tomasz.ask('offerOpenings', { params: { ticketId }, body })).status).toBe(422);
    const { lanes } = await tomasz.do('getDispatch');
    const skilled = (await tomasz.do('listUnbooked', { query: { notHeld: 'yes' } })).work.find((w) => w.skill)!;
    const unskilled = lanes.find((l) => l.personId && !l.skills.some((s) => s.skillId === skilled.skill!.id))!;
    const wrong = { openings: [{ ...slot, personId: unskilled.personId, startsAt: '2026-11-26T13:00:00Z' }], heldHours: 4, onSite: false };
    const unable = await tomasz.ask('offerOpenings', { params: { ticketId: skilled.workId }, body: wrong });
    expect([unable.status, detailOf(unable)]).toEqual([422, expect.stringContaining(`does not know ${skilled.skill!.name}`)]);
    const lonely = await waiting();
    await world.knex('ticket').where({ id: lonely.ticketId }).update({ contact_id: null, sender_email: null });
    const [free] = await propose(lonely.ticketId);
    const nobody = await tomasz.ask('offerOpenings', {
      params: { ticketId: lonely.ticketId },
      body: { openings: [{ personId: free!.personId, startsAt: free!.startsAt, minutes: free!.minutes }], heldHours: 4, onSite: false },
    });
    expect([nobody.status, detailOf(nobody)]).toEqual([409, expect.stringContaining('no contact to write to')]);
    expect(await count()).toBe(before);
    expect((await fetch(`${world.base}/openings/${'x'.repeat(24)}`)).status).toBe(404);
  });

  it('end when dispatch lets them go, when others are offered, and when the ticket is booked after all', async () => {
    const { ticketId } = await waiting();
    const first = await offer(ticketId);
    const second = await offer(ticketId);
    expect([await stateOf(first.id), await stateOf(second.id)]).toEqual(['released', 'open']);
    expect((await tomasz.do('releaseOpenings', { params: { setId: second.id } })).released).toBe(3);
    expect((await tomasz.ask('releaseOpenings', { params: { setId: second.id } })).status).toBe(409);
    const third = await offer(ticketId);
    const [mine] = await held(third.id);
    // By phone after all: what was held becomes sure on the lane.
    await tomasz.do('moveBooking', {
      params: { bookingId: mine.id },
      version: mine.version,
      body: { personId: mine.person_id, startsAt: third.openings[0]!.startsAt, minutes: 30, tentative: false },
    });
    expect(await stateOf(third.id)).toBe('taken');
    expect((await held(third.id)).map((b) => b.state)).toEqual(['planned', 'cancelled', 'cancelled']);
    expect((await world.knex('ticket').where({ id: ticketId }).first('status')).status).toBe('booked');
  });
});
