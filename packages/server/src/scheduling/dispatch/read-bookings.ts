import type { Knex } from 'knex';
import { type BookingWire, heldUntil } from '@core/scheduling';
import { formatInstant, type Instant, type Interval } from '@core/ground';
import { at, wireAt, type Db } from '../../app/database';
import type { Joined, Row } from '../../app/rows';
import { resolutionDue } from '../../desk';
import { namedWork } from '../../ground';
import { placeOf } from '../travel/read-travel';

/** A booking as lanes need it, with its span as instants. */
export type LaneRow = BookingWire & { readonly span: Interval };

/** A booking with what it is for, whom and where, how long was recorded on it, and until when its time is held for a client. */
type BookingRow = Row<'booking'> &
  Row<'work_facts', 'number' | 'subject' | 'priority'> &
  Joined<'contact', 'phone'> &
  Joined<'site', 'latitude' | 'longitude'> &
  Joined<'opening_set', 'held_until'> & {
    readonly due_at: Instant | null;
    readonly client: string | null;
    readonly contact: string | null;
    readonly site_id: string | null;
    readonly site: string | null;
    readonly skill_id: string | null;
    readonly skill: string | null;
    readonly logged: number;
  };

/** Bookings that lie in a span, the earliest first. */
export async function readBookings(db: Db, span: Interval, narrow: (query: Knex.QueryBuilder) => void): Promise<LaneRow[]> {
  const rows: BookingRow[] = await db('booking as b')
    .join('work_facts as w', 'w.id', 'b.work_id')
    .leftJoin('client as c', 'c.id', 'w.client_id')
    .leftJoin('contact as k', 'k.id', 'w.contact_id')
    .leftJoin('category as g', 'g.id', 'w.category_id')
    .leftJoin('skill as l', 'l.id', 'g.skill_id')
    .leftJoin('opening_set as o', (j) => void j.on('o.id', 'b.opening_set_id').andOn('o.state', db.raw(`'open'`)))
    .leftJoin('site as s', 's.id', 'w.site_id')
    .where('b.starts_at', '<', at(span.to))
    .where('b.ends_at', '>', at(span.from))
    .modify(narrow)
    .orderBy(['b.starts_at', 'b.id'])
    .select(
      'b.*',
      'w.number',
      'w.subject',
      'w.priority',
      db.raw(`${resolutionDue('w')} as due_at`),
      'c.name as client',
      'k.name as contact',
      'k.phone',
      's.id as site_id',
      's.name as site',
      's.latitude',
      's.longitude',
      'o.held_until',
      'l.id as skill_id',
      'l.name as skill',
      db.raw(
        `(select coalesce(sum(e.minutes), 0)::int from time_entry e where e.work_id = b.work_id and e.person_id = b.person_id and e.removed_at is null
           and e.starts_at < b.ends_at and e.ends_at > b.starts_at) as logged`,
      ),
    );
  return rows.map(bookingWire);
}

function bookingWire(b: BookingRow): LaneRow {
  const place = b.on_site ? placeOf(b.site_id, b.latitude, b.longitude) : null;
  return {
    id: b.id,
    version: b.version,
    ...namedWork(b),
    client: b.client,
    contact: b.contact,
    phone: b.phone,
    site: b.site,
    priority: b.priority,
    dueAt: wireAt(b.due_at),
    personId: b.person_id,
    startsAt: formatInstant(b.starts_at),
    endsAt: formatInstant(b.ends_at),
    plannedStartsAt: formatInstant(b.planned_starts_at),
    plannedEndsAt: formatInstant(b.planned_ends_at),
    state: b.state,
    travelBefore: b.travel_before,
    travelAfter: b.travel_after,
    place,
    onSite: b.on_site,
    tentative: b.tentative,
    fixed: b.fixed,
    bring: b.bring,
    crewId: b.crew_id,
    seriesId: b.series_id,
    cancelReason: b.cancel_reason,
    loggedMinutes: b.logged,
    skill: b.skill_id ? { id: b.skill_id, name: b.skill! } : null,
    toldClientAt: wireAt(b.told_client_at),
    held: b.held_until && b.tentative ? { setId: b.opening_set_id!, until: formatInstant(heldUntil(b.held_until, b.starts_at)) } : null,
    span: { from: b.starts_at, to: b.ends_at },
  };
}
