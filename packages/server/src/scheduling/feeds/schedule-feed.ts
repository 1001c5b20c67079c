import ical, { ICalCalendarMethod, ICalEventBusyStatus, ICalEventStatus, ICalEventTransparency } from 'ical-generator';
import { type Id, type Instant, plusSeconds, sayWork } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Joined, Row, Rows } from '../../app/rows';

const DAY = 86_400;
const PAST_DAYS = 30;
const AHEAD_DAYS = 370;
const dateOf = (instant: Instant): Date => new Date(instant * 1000);

/**
 * A technician's bookings and time off as an iCalendar (RFC 5545). Times are in UTC, so that they are right in every
 * zone and over every change of the clocks. A booking keeps its UID for ever; SEQUENCE is its version, so that what
 * moved, was handed on or was cancelled is told as an update.
 */
export async function scheduleFeed(app: App, personId: Id<'person'>): Promise<string> {
  const now = app.clock.now();
  const [from, to] = [at(plusSeconds(now, -PAST_DAYS * DAY)), at(plusSeconds(now, AHEAD_DAYS * DAY))];
  const person = (await app.knex('person').where({ id: personId }).first('name'))!;
  const bookings: (Row<'booking', 'id' | 'version' | 'state' | 'tentative' | 'person_id' | 'starts_at' | 'ends_at' | 'ticket_id'> &
    Row<'work_facts', 'number' | 'subject'> &
    Joined<'contact', 'phone'> &
    Joined<'site', 'street' | 'city'> & {
      readonly client: Rows['client']['name'] | null;
      readonly contact: Rows['contact']['name'] | null;
    })[] = await app
    .knex('booking as b')
    .leftJoin('booking_left as l', (j) => void j.on('l.booking_id', 'b.id').andOn('l.person_id', app.knex.raw('?', [personId])))
    .join('work_facts as w', 'w.id', 'b.work_id')
    .leftJoin('client as c', 'c.id', 'w.client_id')
    .leftJoin('contact as k', 'k.id', 'w.contact_id')
    .leftJoin('site as s', 's.id', 'w.site_id')
    .where((q) => void q.where('b.person_id', personId).orWhere('l.person_id', personId))
    .where('b.starts_at', '<', to)
    .where('b.ends_at', '>', from)
    .orderBy(['b.starts_at', 'b.id'])
    .select(
      'b.id',
      'b.version',
      'b.state',
      'b.tentative',
      'b.person_id',
      'b.starts_at',
      'b.ends_at',
      'b.ticket_id',
      'w.number',
      'w.subject',
      'c.name as client',
      'k.name as contact',
      'k.phone',
      's.street',
      's.city',
    );
  const off: Row<'time_off'>[] = await app
    .knex('time_off')
    .where({ person_id: personId })
    .where('starts_at', '<', to)
    .where('ends_at', '>', from)
    .orderBy('starts_at');
  const host = app.house.house.mailFrom.split('@')[1]!;
  const feed = ical({
    name: `${person.name}, ${app.house.house.provider}`,
    prodId: { company: 'Drumline', product: 'Drumline', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
    ttl: 15 * 60,
  });
  for (const b of bookings) {
    const gone = b.state === 'cancelled' || b.person_id !== personId;
    feed.createEvent({
      id: `booking-${b.id}@${host}`,
      sequence: b.version - 1,
      stamp: dateOf(now),
      start: dateOf(b.starts_at),
      end: dateOf(b.ends_at),
      summary: `${sayWork(b)}${b.client ? `, ${b.client}` : ''}`,
      location: [b.street, b.city].filter(Boolean).join(', ') || null,
      description: [b.contact, b.phone, b.ticket_id && `${app.config.PUBLIC_URL}/tickets/${b.ticket_id}`].filter(Boolean).join('\n'),
      status: gone ? ICalEventStatus.CANCELLED : b.tentative ? ICalEventStatus.TENTATIVE : ICalEventStatus.CONFIRMED,
      busystatus: gone ? ICalEventBusyStatus.FREE : ICalEventBusyStatus.BUSY,
      transparency: gone ? ICalEventTransparency.TRANSPARENT : ICalEventTransparency.OPAQUE,
    });
  }
  for (const o of off)
    feed.createEvent({
      id: `time-off-${o.id}@${host}`,
      stamp: dateOf(now),
      start: dateOf(o.starts_at),
      end: dateOf(o.ends_at),
      summary: `Away: ${o.reason}`,
      status: ICalEventStatus.CONFIRMED,
    });
  return feed.toString();
}
