import { learnEstimates, medianOf, pairOf } from '@core/scheduling';
import { plusSeconds, type Instant } from '@core/ground';
import type { App } from '../../app/app';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { siteOf } from '../../desk';
import { TYPED } from './estimate-work';

const DAY = 86_400;
/** What lies further back is not like today's work any more. */
const CASES_DAYS = 400;
const LEAST_WAYS = 3;
const BATCH = 500;

/** Job: learns from what happened how long work and ways take. Run again, it learns the same. */
export async function learn(app: App): Promise<void> {
  await app.knex.transaction((tx) => learnFrom(tx, app.clock.now()));
}

export async function learnFrom(tx: Db, now: Instant): Promise<void> {
  const since = at(plusSeconds(now, -CASES_DAYS * DAY));
  const cases: (Row<'ticket', 'kind' | 'category_id' | 'client_id'> & Row<'time_entry', 'person_id'> & { readonly minutes: number })[] =
    await tx('time_entry as e')
      .join('ticket as t', 't.id', 'e.ticket_id')
      .whereIn('t.status', ['resolved', 'closed'])
      .whereNull('e.removed_at')
      .where('e.starts_at', '>', since)
      .groupBy('t.id', 'e.person_id')
      .orderByRaw('max(e.ends_at), t.id')
      .select('t.kind', 't.category_id', 'e.person_id', 't.client_id', tx.raw('sum(e.minutes)::int as minutes'));
  const learned = learnEstimates(
    cases.map((c) => ({
      kind: c.kind,
      categoryId: c.category_id,
      personId: c.person_id,
      clientId: c.client_id,
      minutes: c.minutes,
    })),
  );
  const typed = await tx('ticket as t')
    .whereIn('t.status', ['resolved', 'closed'])
    .whereNotNull('t.estimate_minutes')
    .where('t.resolved_at', '>', since)
    .joinRaw(
      'join lateral (select sum(minutes) as minutes from time_entry where ticket_id = t.id and removed_at is null) e on e.minutes > 0',
    )
    .first(tx.raw('count(*)::int as judged'), tx.raw('(count(*) filter (where e.minutes <= t.estimate_minutes))::int as right_cases'));
  await tx('learned_estimate').delete();
  const rows = learned.map(({ right, ...l }) => ({ ...l, right_cases: right, learned_at: at(now) }));
  rows.push({ likeness: TYPED as never, key: TYPED, cases: 0, median: 0, p80: 0, ...typed, learned_at: at(now) });
  for (let i = 0; i < rows.length; i += BATCH) await tx('learned_estimate').insert(rows.slice(i, i + BATCH));
  await learnTravel(tx, now, since);
}

/** Time recorded as travel: of whom, to which site and from where, and whether it is known where their day begins. */
type LoggedWay = Row<'time_entry', 'minutes' | 'person_id'> & {
  readonly site: string | null;
  readonly before: string | null;
  readonly has_start: boolean;
};

/**
 * The way to a visit is what was logged as travel on its ticket that day; it led from the visit before, else from
 * where the day begins. The median of three or more takes the place of coordinates, never of somebody's word.
 */
async function learnTravel(tx: Db, now: Instant, since: string): Promise<void> {
  const ways: LoggedWay[] = (
    await tx.raw(
      `select e.minutes, e.person_id, ${siteOf('t')} as site,
         (select ${siteOf('u')} from booking b join ticket u on u.id = b.ticket_id
           where b.person_id = e.person_id and b.on_site and b.state = 'done' and b.ends_at <= e.starts_at + interval '15 minutes'
             and b.ends_at > e.starts_at - interval '10 hours' order by b.ends_at desc limit 1) as before,
         exists (select 1 from person p where p.id = e.person_id and p.home_latitude is not null) as has_start
       from time_entry e join activity a on a.id = e.activity_id join ticket t on t.id = e.ticket_id
       where a.travel and e.removed_at is null and e.starts_at > ?`,
      [since],
    )
  ).rows;
  const minutes = new Map<string, number[]>();
  for (const w of ways) {
    const from = w.before ?? (w.has_start ? w.person_id : null);
    if (!from || !w.site || from === w.site) continue;
    const pair = pairOf(from, w.site);
    minutes.set(pair, [...(minutes.get(pair) ?? []), w.minutes]);
  }
  await tx('travel_time').where({ source: 'logged' }).delete();
  for (const [pair, all] of minutes) {
    if (all.length < LEAST_WAYS) continue;
    const [place_a, place_b] = pair.split(' ');
    await tx('travel_time')
      .insert({ place_a, place_b, minutes: medianOf(all.sort((a, b) => a - b)), source: 'logged', set_at: at(now) })
      .onConflict(['place_a', 'place_b'])
      .ignore();
  }
}
