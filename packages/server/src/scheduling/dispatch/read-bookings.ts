import type { Knex } from 'knex';
import { type BookingWire, heldUntil } from '@core/scheduling';
import { formatInstant, type Instant, type Interval } from '@core/ground';
import { at, wireAt, type Columns, type Db } from '../../app/database';
import { resolutionDue } from '../../desk/clocks/resolution-due';
import { namedWork } from '../../ground/work/work-facts';
import { placeOf } from '../travel/read-travel';

/** A booking as lanes need it, with its span as instants. */
export type LaneRow = BookingWire & { readonly span: Interval };

/** Bookings that lie in a span, the earliest first. */
export async function readBookings(db: Db, span: Interval, narrow: (query: Knex.QueryBuilder) => void): Promise<LaneRow[]> {
  const rows: Columns[] = await db('booking as b')
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

function bookingWire(b: Columns): LaneRow {
  const get = <T>(name: string) => b[name] as T;
  const place = get<boolean>('on_site') ? placeOf(get('site_id'), get('latitude'), get('longitude')) : null;
  return {
    id: get('id'),
    version: get('version'),
    ...namedWork(b),
    client: get('client'),
    contact: get('contact'),
    phone: get('phone'),
    site: get('site'),
    priority: get('priority'),
    dueAt: wireAt(get<Instant | null>('due_at')),
    personId: get('person_id'),
    startsAt: formatInstant(get('starts_at')),
    endsAt: formatInstant(get('ends_at')),
    plannedStartsAt: formatInstant(get('planned_starts_at')),
    plannedEndsAt: formatInstant(get('planned_ends_at')),
    state: get('state'),
    travelBefore: get('travel_before'),
    travelAfter: get('travel_after'),
    place,
    onSite: get('on_site'),
    tentative: get('tentative'),
    fixed: get('fixed'),
    bring: get('bring'),
    crewId: get('crew_id'),
    seriesId: get('series_id'),
    cancelReason: get('cancel_reason'),
    loggedMinutes: get('logged'),
    skill: get('skill_id') ? { id: get('skill_id'), name: get('skill') } : null,
    toldClientAt: wireAt(get<Instant | null>('told_client_at')),
    held:
      get<Instant | null>('held_until') && get('tentative')
        ? { setId: get('opening_set_id'), until: formatInstant(heldUntil(get('held_until'), get('starts_at'))) }
        : null,
    span: { from: get('starts_at'), to: get('ends_at') },
  };
}
