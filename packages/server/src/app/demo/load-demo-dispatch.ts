import type { Knex } from 'knex';
import { plusDays, type Instant, type LocalDate } from '@core/time';
import { learnFrom } from '../../estimates/learn';
import { DEMO_TOPICS } from './demo-topics';

/** Where technicians begin their day, in degrees north and east; all others at the house. */
const STARTS: Readonly<Record<string, readonly [string, number, number]>> = {
  'Ines Valadares': ['Mirebank depot', 52.335, -7.21],
  'Callum Strachan': ['Brackwater depot', 52.185, -7.19],
};
const HOUSE_PLACE = ['Rope Walk', 52.258, -7.112] as const;

/** Places, public holidays, a late shift, what needs a visit, and what was learned of how long work takes. */
export async function loadDemoDispatch(tx: Knex.Transaction, story: Instant, today: LocalDate): Promise<void> {
  await tx('house').update({ holiday_region: 'IE' });
  for (const person of await tx('person').where({ technician: true }).select('id', 'name')) {
    const [home_name, home_latitude, home_longitude] = STARTS[person.name] ?? HOUSE_PLACE;
    await tx('person').where({ id: person.id }).update({ home_name, home_latitude, home_longitude });
  }
  const odalys = await tx('person').where({ name: 'Odalys Figueroa' }).first('id');
  await tx('shift').insert(
    [2, 3].map((n) => ({ person_id: odalys.id, day: plusDays(today, n), hours: ['11:00-19:00'], note: 'late shift' })),
  );
  const visits = DEMO_TOPICS.filter((t) => t.activity === 'on site').flatMap((t) => t.subjects);
  await tx('ticket').whereIn('subject', visits).update({ needs_visit: true });
  await learnFrom(tx, story);
}
