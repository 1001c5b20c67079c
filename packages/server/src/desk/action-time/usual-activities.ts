import { type Id, type Instant, plusSeconds } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';

const HISTORY_SECONDS = 60 * 86_400;

/** Ids of activities. */
export interface UsualActivities {
  readonly onSite: string;
  readonly usual: string;
}

/** What somebody mostly does, by their last two months, and what a visit is. */
export async function readUsualActivities(db: Db, personId: Id<'person'>, now: Instant): Promise<UsualActivities> {
  const since = at(plusSeconds(now, -HISTORY_SECONDS));
  const rows: Row<'activity', 'id' | 'visit'>[] = await db('activity as a')
    .leftJoin(
      'time_entry as e',
      (j) =>
        void j
          .on('e.activity_id', 'a.id')
          .andOn('e.person_id', db.raw('?', [personId]))
          .andOn('e.starts_at', '>', db.raw('?', [since])),
    )
    .groupBy('a.id', 'a.visit', 'a.position')
    .orderByRaw('count(e.id) desc, a.position')
    .select('a.id', 'a.visit');
  const usual: string = (rows.find((a) => !a.visit) ?? rows[0])!.id;
  return { usual, onSite: rows.find((a) => a.visit)?.id ?? usual };
}
