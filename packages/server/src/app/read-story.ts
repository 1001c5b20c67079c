import { sayEvent } from '@core/events';
import { formatInstant, type StoryWire } from '@core/ground';
import type { Db } from './database';

const MOST = 500;

interface LogRow {
  readonly type: string;
  readonly version: number;
  readonly data: unknown;
  readonly subject: string;
  readonly subject_id: string;
  readonly happened_at: Parameters<typeof formatInstant>[0];
  readonly who_name: string;
  readonly via: string;
}

/** What happened to a record, oldest first, as its page shows it; of a ticket also what happened to its bookings, time and charges. */
export async function readStory(db: Db, subject: string, id: string): Promise<StoryWire[]> {
  const rows: LogRow[] = await db('event')
    .where(subject === 'ticket' ? { ticket_id: id } : { subject, subject_id: id })
    .orderBy('id')
    .limit(MOST)
    .select('type', 'version', 'data', 'subject', 'subject_id', 'happened_at', 'who_name', 'via');
  return rows.flatMap((row) => {
    const said = sayEvent(row, row.subject === subject && row.subject_id === id ? 'own' : 'ticket');
    return said ? [{ at: formatInstant(row.happened_at), who: row.who_name, ...said, via: row.via }] : [];
  });
}
