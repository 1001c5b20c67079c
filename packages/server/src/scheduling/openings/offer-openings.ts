import type { OfferOpeningsForm } from '@core/scheduling';
import {
  formatInstant,
  type Id,
  type Instant,
  isRefusal,
  type Outcome,
  parseZone,
  plusSeconds,
  refuse,
  sayMoment,
  type Zone,
} from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { sendInThread } from '../../desk';
import { makeSecret, tokenOf } from '../../house';
import { refuseUnbookable } from '../dispatch/book-work';
import { insertBooking, spanOf, technicianName } from '../dispatch/booking-store';
import { readOneBookable } from '../dispatch/read-unbooked';
import { hasRoom } from '../fitting/find-fits';
import { endOpenings } from './end-openings';

/** The address at which a client chooses. */
export const openingsAddress = (app: App, token: string): string => `${app.config.PUBLIC_URL}/openings/${token}`;

/**
 * Holds some openings by tentative bookings and mails them to the client in the ticket's thread. Each is checked again:
 * skill, hours and ways must still be right. What was offered before for the ticket ends.
 */
export async function offerOpenings(
  app: App,
  work: Work,
  { ticketId, asked }: { readonly ticketId: Id<'ticket'>; readonly asked: OfferOpeningsForm },
): Promise<Outcome<{ id: string; heldUntil: string }>> {
  const { house } = app;
  const refused = await refuseUnbookable(work, ticketId);
  if (refused) return refused;
  const earlier = await work.tx('opening_set').where({ ticket_id: ticketId, state: 'open' }).forUpdate().select('id');
  for (const { id } of earlier) await endOpenings(work, house, { setId: id, end: 'released' });
  const secret = makeSecret(app, 'openings');
  const heldUntil = plusSeconds(work.now, asked.heldHours * 3600);
  const [set] = await work
    .tx('opening_set')
    .insert({ ticket_id: ticketId, ...secret, made_by: work.actor.personId, made_at: at(work.now), held_until: at(heldUntil) })
    .returning('id');
  const lines: string[] = [];
  const zone = await clientZone(app, work, ticketId);
  const ordered = [...asked.openings].sort((a, b) => (a.startsAt < b.startsAt ? -1 : 1));
  for (const [n, opening] of ordered.entries()) {
    const held = await hold(app, work, { form: { ticketId, setId: set!.id, onSite: asked.onSite, field: `openings[${n}]` }, opening });
    if (isRefusal(held)) return held;
    lines.push(sayOpening(spanOf(opening), held, zone));
  }
  const message = await sendInThread(app, work, {
    ticketId,
    automatic: true,
    text: await words(app, work, {
      ticketId,
      lines,
      address: openingsAddress(app, tokenOf(app, 'openings', secret.nonce)),
      until: sayMoment(heldUntil, zone),
    }),
  });
  if (!message) return refuse('not-possible-now', 'This ticket has no contact to write to. Name one first.');
  await work.tell('ticket.openings-offered', ticketId, { openings: lines, heldUntil: sayMoment(heldUntil, house.house.zone) });
  return { id: set!.id, heldUntil: formatInstant(heldUntil) };
}

interface Held {
  readonly ticketId: Id<'ticket'>;
  readonly setId: Id<'opening_set'>;
  readonly onSite: boolean;
  readonly field: string;
}

/** @returns the technician's name */
async function hold(
  app: App,
  work: Work,
  { form: { ticketId, setId, onSite, field }, opening }: { readonly form: Held; readonly opening: OfferOpeningsForm['openings'][number] },
): Promise<Outcome<string>> {
  const name = await technicianName(work, opening.personId);
  if (isRefusal(name)) return name;
  const bookable = (await readOneBookable(work.tx, ticketId))!;
  const said = `${name} at ${sayMoment(spanOf(opening).from, app.house.house.zone)}`;
  if (bookable.skill && !(await knows(work, opening.personId, bookable.skill.id)))
    return refuse('invalid', `${name} does not know ${bookable.skill.name}.`, { [field]: `${said}: does not know ${bookable.skill.name}` });
  const span = spanOf(opening);
  const place = onSite ? bookable.place : null;
  if (!(await hasRoom(work.tx, app.house, { personId: opening.personId, place, span, now: work.now })))
    return refuse('not-possible-now', `${said} is not free any more. Look for openings again.`, {
      [field]: `${said} is not free any more`,
    });
  const booking = await insertBooking(work, app.house, {
    workId: ticketId,
    slot: { ...opening, onSite, tentative: true },
    span,
    together: { openingSetId: setId },
  });
  await work.tell('booking.held-as-opening', booking.id, {});
  return name;
}

async function knows(work: Work, personId: Id<'person'>, skillId: Id<'skill'>): Promise<boolean> {
  return Boolean(await work.tx('person_skill').where({ person_id: personId, skill_id: skillId }).first('level'));
}

async function clientZone(app: App, work: Work, ticketId: Id<'ticket'>): Promise<Zone> {
  const row = await work.tx('ticket as t').leftJoin('client as c', 'c.id', 't.client_id').where('t.id', ticketId).first('c.zone');
  return parseZone(row?.zone ?? app.house.house.zone);
}

/** "Tuesday 24 November 2026, 14:00 to 15:00, with Sora Lindqvist", in the client's own time. */
export function sayOpening(span: { readonly from: Instant; readonly to: Instant }, technician: string, zone: Zone): string {
  return `${sayMoment(span.from, zone)} to ${sayMoment(span.to, zone).split(', ').at(-1)}, with ${technician}`;
}

async function words(
  app: App,
  work: Work,
  {
    ticketId,
    lines,
    address,
    until,
  }: { readonly ticketId: Id<'ticket'>; readonly lines: readonly string[]; readonly address: string; readonly until: string },
): Promise<string> {
  const ticket = await work
    .tx('ticket as t')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .where('t.id', ticketId)
    .first('t.subject', 'k.name');
  const hello = ticket.name ? `Hello ${ticket.name.split(' ')[0]},` : 'Hello,';
  const listed = lines.map((line) => `  – ${line}`).join('\n');
  return `${hello}\n\nfor "${ticket.subject}" we could do it at one of these times, whichever suits you best:\n\n${listed}\n\nTake one here, with one press:\n${address}\n\nWe hold them for you until ${until}. None of them suits you? Say so there, or answer this mail.\n\n${app.house.house.provider}`;
}
