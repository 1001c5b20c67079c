import { formatInstant, type StoryWire } from '@core/ground';
import type { Db } from './database';
import type { Told } from './work';

const MOST = 500;

/** What happened to a record, oldest first, as its page shows it. */
export async function readStory(db: Db, subject: Told['subject'], id: string): Promise<StoryWire[]> {
  const rows = await db('story as s')
    .leftJoin('person as p', 'p.id', 's.person_id')
    .where({ subject, subject_id: id })
    .orderBy('s.id')
    .limit(MOST)
    .select('s.at', 's.what', 's.detail', 's.via', 'p.name');
  return rows.map((s) => ({ at: formatInstant(s.at), who: s.name ?? s.via, what: s.what, detail: s.detail, via: s.via }));
}
