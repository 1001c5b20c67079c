import express, { type Request, type Response, type Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { canBeTaken, heldUntil } from '@core/scheduling';
import { type Id, type Instant, isRefusal, type Outcome, parseZone, refuse, sayMoment, type Zone } from '@core/ground';
import type { App } from '../../app/app';
import type { Joined, Row, Rows } from '../../app/rows';
import { escaped, outsidePage } from '../../app/outside-page';
import { byContact } from '../../app/actor';
import { transact, type Work } from '../../app/work';
import { hashSecret, isSecret, tellPerson } from '../../house';
import { becomeBooked } from '../dispatch/book-work';
import { keepChange } from '../dispatch/booking-store';
import { tellClient } from '../dispatch/tell-client';
import { endOpenings, heldBy } from './end-openings';
import { sayOpening } from './offer-openings';

const TRIES_A_MINUTE = 60;
const NONE = 'none';

/** Where a client takes an opening, without a sign-in. Opening the page, as scanners of mail do, takes nothing. */
export function openingsPages(app: App): Router {
  const router = express.Router();
  router.use(rateLimit({ windowMs: 60_000, limit: TRIES_A_MINUTE, standardHeaders: 'draft-7', legacyHeaders: false }));
  router.use(express.urlencoded({ extended: false, limit: '4kb' }));
  router.use((_req, res, next) => {
    res.setHeader('cache-control', 'no-store');
    res.setHeader('x-robots-tag', 'noindex');
    next();
  });
  router.get('/:token', (req, res) => show(app, { req, res }));
  router.post('/:token', (req, res) => take(app, req, res));
  return router;
}

/** A set of openings with its ticket, its client and whom it was offered to. */
type OpeningSet = Row<'opening_set'> &
  Row<'ticket', 'number' | 'subject'> &
  Joined<'client', 'zone'> & {
    readonly contact_id: Rows['contact']['id'] | null;
    readonly contact: Rows['contact']['name'] | null;
    readonly client: Rows['client']['name'] | null;
  };

interface Shown {
  readonly set: OpeningSet;
  readonly zone: Zone;
  /** Who takes one: the ticket's contact, where it has one. */
  readonly client: { readonly id: string | null; readonly name: string };
  readonly openings: readonly {
    readonly id: string;
    readonly says: string;
    readonly canBe: boolean;
    /** Its own last call, where that comes before the set's end. */
    readonly lastCall: string | null;
  }[];
}

async function read(app: App, token: string): Promise<Shown | undefined> {
  if (!isSecret(token)) return undefined;
  const set: OpeningSet | undefined = await app
    .knex('opening_set as o')
    .join('ticket as t', 't.id', 'o.ticket_id')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .where('o.token_hash', hashSecret(token))
    .first('o.*', 't.number', 't.subject', 'c.zone', 'k.id as contact_id', 'k.name as contact', 'c.name as client');
  if (!set) return undefined;
  const zone = parseZone(set.zone ?? app.house.house.zone);
  const bookings: (Row<'booking'> & Joined<'person', 'name'>)[] = await app
    .knex('booking as b')
    .leftJoin('person as p', 'p.id', 'b.person_id')
    .where({ 'b.opening_set_id': set.id })
    .orderBy(['b.starts_at', 'b.id'])
    .select('b.*', 'p.name');
  const now = app.clock.now();
  return {
    set,
    zone,
    client: { id: set.contact_id, name: set.contact ?? set.client ?? 'The client' },
    openings: bookings.map((b) => ({
      id: b.id,
      says: says(b, zone),
      canBe: set.state === 'open' && b.state === 'planned' && b.tentative && canBeTaken(set.held_until, b.starts_at, now),
      lastCall: lastCall(set.held_until, b.starts_at, zone),
    })),
  };
}

function lastCall(setUntil: Instant, begins: Instant, zone: Zone): string | null {
  const until = heldUntil(setUntil, begins);
  return until < setUntil ? sayMoment(until, zone) : null;
}

function says(b: Row<'booking', 'starts_at' | 'ends_at'> & { readonly name: string | null }, zone: Zone): string {
  return sayOpening({ from: b.starts_at, to: b.ends_at }, b.name ?? 'one of us', zone);
}

async function show(
  app: App,
  { req, res, trouble = '' }: { readonly req: Request<{ token: string }>; readonly res: Response; readonly trouble?: string },
): Promise<void> {
  const shown = await read(app, req.params.token);
  if (!shown)
    return outsidePage(app, {
      res,
      status: 404,
      body: '<h1>There is no such page</h1><p>Perhaps the address is not whole. Answer our mail, and we will help.</p>',
    });
  const { set, zone } = shown;
  const head = `<p class="soft">Your request #${set.number}</p><h1>${escaped(set.subject)}</h1>${trouble && `<p class="note" role="alert">${escaped(trouble)}</p>`}`;
  outsidePage(app, { res, status: trouble ? 409 : 200, body: head + (await body(app, shown, sayMoment(set.held_until, zone))) });
}

async function body(app: App, { set, zone, openings }: Shown, until: string): Promise<string> {
  if (set.state === 'taken') {
    const booked: (Row<'booking'> & Joined<'person', 'name'>) | undefined = await app
      .knex('booking as b')
      .leftJoin('person as p', 'p.id', 'b.person_id')
      .where({ 'b.ticket_id': set.ticket_id, 'b.tentative': false })
      .whereIn('b.state', ['planned', 'underway', 'done'])
      .orderByRaw('b.opening_set_id = ? desc nulls last, b.starts_at desc', [set.id])
      .first('b.*', 'p.name');
    const when = booked ? `<p class="status met">Booked: ${escaped(says(booked, zone))}</p>` : '';
    return `${when}<p>Should that no longer suit you, answer our mail and we will find another time.</p>`;
  }
  if (!openings.some((o) => o.canBe))
    return '<p class="status">These times are no longer held for you.</p><p>Answer our mail, and we will send you others.</p>';
  const choices = openings.map((o) =>
    o.canBe
      ? `<form method="post"><input type="hidden" name="take" value="${o.id}"><button>${escaped(o.says)}</button>${o.lastCall ? `<p class="soft">to be taken by ${escaped(o.lastCall)}</p>` : ''}</form>`
      : `<p class="soft"><s>${escaped(o.says)}</s> is gone</p>`,
  );
  return `<p>Which of these suits you best? We hold them for you until ${escaped(until)}.</p>${choices.join('')}
    <form method="post"><input type="hidden" name="take" value="${NONE}"><button class="quiet">None of these suits me</button></form>`;
}

async function take(app: App, req: Request<{ token: string }>, res: Response): Promise<void> {
  const shown = await read(app, req.params.token);
  if (!shown) return show(app, { req, res });
  const asked = String((req.body as Record<string, unknown> | undefined)?.take ?? '');
  const done = await transact(app, { now: app.clock.now(), actor: byContact(shown.client, 'page') }, (work) =>
    asked === NONE ? decline(app, work, shown) : takeOne(app, work, { shown, bookingId: asked }),
  );
  if (isRefusal(done)) return show(app, { req, res, trouble: done.detail });
  if (asked === NONE)
    return outsidePage(app, {
      res,
      status: 200,
      body: '<h1>Thank you for letting us know</h1><p>We write to you with other times soon.</p>',
    });
  res.redirect(303, `/openings/${req.params.token}`);
}

/** Books the opening that the client chose; of two presses at once the first one counts. */
async function takeOne(
  app: App,
  work: Work,
  { shown: { set, openings }, bookingId }: { readonly shown: Shown; readonly bookingId: Id<'booking'> },
): Promise<Outcome<{ id: string }>> {
  await work.tx('opening_set').where({ id: set.id }).forUpdate().first('id');
  const booking = (await heldBy(work, set.id)).find((b) => b.id === bookingId);
  const state = (await work.tx('opening_set').where({ id: set.id }).first('state'))!;
  if (state.state === 'taken') return refuse('not-possible-now', 'A time is taken already.');
  const known = openings.find((o) => o.id === bookingId);
  if (!known) return refuse('invalid', 'Choose one of the times below.');
  if (!booking || state.state !== 'open' || !canBeTaken(set.held_until, booking.starts_at, work.now))
    return refuse('not-possible-now', 'That time is no longer free.');
  await work
    .tx('booking')
    .where({ id: bookingId })
    .update({ tentative: false, fixed: true, version: work.tx.raw('version + 1') });
  await keepChange(work, bookingId, 'taken by the client');
  await becomeBooked(work, set.ticket_id, { personId: booking.person_id, bookingId });
  await work.tell('booking.taken-by-client', bookingId, {});
  await work.tell('ticket.opening-taken', set.ticket_id, { opening: known.says });
  await tellPerson(work, { personId: set.made_by, text: `#${set.number}: the client took ${known.says}`, ticketId: set.ticket_id });
  await tellClient(app, work, { bookingId });
  return { id: bookingId };
}

async function decline(app: App, work: Work, { set }: Shown): Promise<Outcome<unknown>> {
  const ended = await endOpenings(work, app.house, { setId: set.id, end: 'declined' });
  if (isRefusal(ended)) return ended;
  await tellPerson(work, {
    personId: set.made_by,
    text: `#${set.number}: none of the openings suits the client`,
    ticketId: set.ticket_id,
    urgent: true,
  });
  return ended;
}
