import ical, { ICalAttendeeRole, ICalCalendarMethod, ICalEventStatus } from 'ical-generator';
import { type Id, type Instant, parseZone, sayMoment } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Joined, Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { sendInThread, siteOf } from '../../desk';
const dateOf = (instant: Instant): Date => new Date(instant * 1000);

/** A booking of a ticket with whom and where it is for, and who comes. */
type BookingToTell = Row<'booking'> &
  Row<'ticket', 'number' | 'subject' | 'division_id'> &
  Joined<'client', 'zone'> &
  Joined<'contact', 'email'> &
  Joined<'site', 'street' | 'city'> & {
    readonly contact: string | null;
    readonly technician: string | null;
    readonly site: string | null;
  };

/**
 * Confirms a booking to the client in the ticket's thread, with an .ics that calendars take as the same appointment
 * from first to last: its UID stays, SEQUENCE is the booking's version, a cancellation takes it back. Of work that is no
 * ticket nobody outside is told.
 * @param note what is said besides, such as that somebody is on the way
 */
export async function tellClient(
  app: App,
  work: Work,
  { bookingId, note }: { readonly bookingId: Id<'booking'>; readonly note?: string },
): Promise<void> {
  const b: BookingToTell | undefined = await work
    .tx('booking as b')
    .join('ticket as t', 't.id', 'b.ticket_id')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .leftJoin('person as p', 'p.id', 'b.person_id')
    .joinRaw(`left join site as s on s.id = ${siteOf('t')}`)
    .where('b.id', bookingId)
    .first(
      'b.*',
      't.number',
      't.subject',
      't.division_id',
      'c.zone',
      'k.name as contact',
      'k.email',
      'p.name as technician',
      's.name as site',
      's.street',
      's.city',
    );
  if (!b) return;
  const gone = b.state === 'cancelled';
  const { house } = app.house;
  const division = app.house.division(b.division_id);
  const zone = parseZone(b.zone ?? house.zone);
  const message = await sendInThread(app, work, {
    ticketId: b.ticket_id!,
    automatic: true,
    text: `${greeting(b.contact)}\n\n${note ?? words({ booking: b, gone, from: sayMoment(b.starts_at, zone), to: sayMoment(b.ends_at, zone) })}\n\n${division.brand}`,
  });
  if (!message) return;
  const host = house.mailFrom.split('@')[1]!;
  const method = gone ? ICalCalendarMethod.CANCEL : ICalCalendarMethod.REQUEST;
  const calendar = ical({ prodId: { company: 'Drumline', product: 'Drumline', language: 'EN' }, method });
  const event = calendar.createEvent({
    id: `visit-${bookingId}@${host}`,
    sequence: b.version - 1,
    stamp: dateOf(work.now),
    start: dateOf(b.starts_at),
    end: dateOf(b.ends_at),
    summary: `${b.subject} (#${b.number})`,
    location: b.on_site ? [b.site, b.street, b.city].filter(Boolean).join(', ') || null : null,
    organizer: { name: division.brand, email: division.mailFrom },
    status: gone ? ICalEventStatus.CANCELLED : b.tentative ? ICalEventStatus.TENTATIVE : ICalEventStatus.CONFIRMED,
  });
  if (b.email) event.createAttendee({ name: b.contact!, email: b.email, role: ICalAttendeeRole.REQ });
  const bytes = Buffer.from(calendar.toString());
  await work.tx('attachment').insert({
    message_id: message.id,
    name: 'appointment.ics',
    media_type: `text/calendar; method=${gone ? 'CANCEL' : 'REQUEST'}; charset=utf-8`,
    bytes: bytes.length,
    blob: await app.blobs.put(bytes),
  });
  await work
    .tx('booking')
    .where({ id: bookingId })
    .update({ told_client_at: at(work.now) });
}

function greeting(contact: string | null): string {
  return contact ? `Hello ${contact.split(' ')[0]},` : 'Hello,';
}

function words({
  booking: b,
  gone,
  from,
  to,
}: {
  readonly booking: BookingToTell;
  readonly gone: boolean;
  readonly from: string;
  readonly to: string;
}): string {
  const who = b.technician ?? 'One of us';
  const until = to.split(', ').at(-1)!;
  if (gone) return `the appointment on ${from} for "${b.subject}" is cancelled.${b.cancel_reason ? ` ${b.cancel_reason}` : ''}`;
  const where = b.on_site ? `comes to you${b.site ? ` (${b.site})` : ''}` : 'works on it for you, from here,';
  const sure = b.tentative ? 'We have pencilled in an appointment' : 'We have made an appointment';
  return `${sure} for "${b.subject}": ${who} ${where} on ${from}, until about ${until}. It is attached for your calendar.`;
}
