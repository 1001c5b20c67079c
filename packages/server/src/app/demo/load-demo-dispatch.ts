import type { Knex } from 'knex';
import { dateOf, instantAt, plusDays, plusSeconds, type Instant, type Zone } from '@core/ground';
import { at } from '../database';
import { DemoRandom } from './demo-random';
import { DEMO_TOPICS } from './demo-topics';

/** Where technicians begin their day, in degrees north and east; all others at the house. */
const STARTS: Readonly<Record<string, readonly [string, number, number]>> = {
  'Ines Valadares': ['Mirebank depot', 52.335, -7.21],
  'Callum Strachan': ['Brackwater depot', 52.185, -7.19],
};
const HOUSE_PLACE = ['Rope Walk', 52.258, -7.112] as const;

/** Places, public holidays, a late shift, and what needs a visit. */
export async function loadDemoDispatch(tx: Knex.Transaction, story: Instant, zone: Zone): Promise<void> {
  const today = dateOf(story, zone);
  await tx('provider').update({ holiday_region: 'IE' });
  for (const person of await tx('person').where({ technician: true }).select('id', 'name')) {
    const [home_name, home_latitude, home_longitude] = STARTS[person.name] ?? HOUSE_PLACE;
    await tx('person').where({ id: person.id }).update({ home_name, home_latitude, home_longitude });
  }
  const odalys = (await tx('person').where({ name: 'Odalys Figueroa' }).first('id'))!;
  await tx('shift').insert(
    [2, 3].map((n) => ({ person_id: odalys.id, day: plusDays(today, n), hours: ['11:00-19:00'], note: 'late shift' })),
  );
  const visits = DEMO_TOPICS.filter((t) => t.activity === 'on site').flatMap((t) => t.subjects);
  await tx('ticket').whereIn('subject', visits).update({ needs_visit: true });
}

const PAST_DAYS = 40;
const QUARTER = 900;

/** What was booked in the weeks before the story, for time that was recorded then: most of it took another time than planned. */
export async function loadPastBookings(tx: Knex.Transaction, story: Instant, zone: Zone): Promise<void> {
  const before = instantAt(dateOf(story, zone), 0, zone);
  const random = new DemoRandom(47);
  const entries = await tx('time_entry as e')
    .join('person as p', 'p.id', 'e.person_id')
    .where({ 'p.technician': true })
    .whereNotNull('e.ticket_id')
    .whereNull('e.removed_at')
    .where('e.starts_at', '<', at(before))
    .where('e.starts_at', '>=', at(plusSeconds(before, -PAST_DAYS * 86_400)))
    .orderBy(['e.starts_at', 'e.person_id'])
    .select('e.id', 'e.person_id', 'e.ticket_id', 'e.starts_at', 'e.ends_at');
  const [bookings, changes]: [Record<string, string>[], Record<string, string>[]] = [[], []];
  for (const entry of entries) {
    if (!random.chance(80)) continue;
    const planned = Math.floor(entry.starts_at / QUARTER) * QUARTER;
    const length = Math.max(2, Math.round((entry.ends_at - entry.starts_at) / QUARTER) + random.whole(-2, 2)) * QUARTER;
    const made = plusSeconds(planned as Instant, -random.whole(2, 30) * 3600);
    const times = { starts_at: at(entry.starts_at), ends_at: at(entry.ends_at) };
    // One booking an entry, so that the entry's id serves both and all go in at once.
    const id: string = entry.id;
    const planned_starts_at = at(planned as Instant);
    const planned_ends_at = at((planned + length) as Instant);
    const { ticket_id: work_id, person_id } = entry;
    bookings.push({ id, work_id, person_id, ...times, planned_starts_at, planned_ends_at, state: 'done' });
    const told = ['booked', ...(random.chance(18) ? ['moved'] : []), ...(random.chance(6) ? ['handed over'] : [])];
    changes.push(...told.map((what, n) => ({ booking_id: id, at: at(plusSeconds(made, n * 1800)), what, person_id, ...times })));
  }
  await tx.batchInsert('booking', bookings, 500);
  await tx.batchInsert('booking_change', changes, 500);
  const ids = bookings.map((b) => b['id']!);
  for (let i = 0; i < ids.length; i += 1000)
    await tx('time_entry')
      .whereIn('id', ids.slice(i, i + 1000))
      .update({ booking_id: tx.ref('id') });
  // Of what fits several bookings equally nobody is asked of the past.
  await tx.raw(
    `update time_entry e set booking_id = b.id from (select distinct on (ticket_id, person_id, starts_at::date) * from booking where state = 'done' order by ticket_id, person_id, starts_at::date, starts_at, id) b
     where e.booking_id is null and e.removed_at is null and b.ticket_id = e.ticket_id and b.person_id = e.person_id and b.starts_at::date = e.starts_at::date and e.starts_at < ?`,
    [at(before)],
  );
}
