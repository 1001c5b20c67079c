import { sayEvent } from '@core/events';
import { formatInstant, type StoryWire } from '@core/ground';
import type { Db } from './database';

/** The newest are shown; how many came before them is said, and they are read on by the event before which they stand. */
const MOST = 100;
/** A ticket shows what happened among what was written. */
const MOST_OF_TICKET = 500;

interface LogRow {
  readonly id: string;
  readonly type: string;
  readonly version: number;
  readonly data: unknown;
  readonly subject: string;
  readonly subject_id: string;
  readonly happened_at: Parameters<typeof formatInstant>[0];
  readonly who_name: string;
  readonly via: string;
  readonly all_events: number;
}

/**
 * What happened to a record, oldest first, as its page shows it; of a ticket also what happened to its bookings, time and charges.
 * @param before the event before which to read on
 */
export async function readStory(
  db: Db,
  { subject, id, before }: { readonly subject: string; readonly id: string; readonly before?: string },
): Promise<StoryWire[]> {
  const rows: LogRow[] = await db('event')
    .where(subject === 'ticket' ? { ticket_id: id } : { subject, subject_id: id })
    .modify((q) => before && void q.where('id', '<', before))
    .orderBy('id', 'desc')
    .limit(subject === 'ticket' ? MOST_OF_TICKET : MOST)
    .select(
      'id',
      'type',
      'version',
      'data',
      'subject',
      'subject_id',
      'happened_at',
      'who_name',
      'via',
      db.raw('(count(*) over ())::int as all_events'),
    );
  const lines = rows.reverse().flatMap((row): StoryWire[] => {
    const said = sayEvent(row, row.subject === subject && row.subject_id === id ? 'own' : 'ticket');
    return said ? [{ id: row.id, at: formatInstant(row.happened_at), who: row.who_name, ...said, via: row.via }] : [];
  });
  const [first] = rows;
  const earlier = (first?.all_events ?? 0) - rows.length;
  if (!first || earlier <= 0) return lines;
  const what = `keeps ${earlier} earlier events, which are not shown here`;
  return [{ id: null, at: formatInstant(first.happened_at), who: 'Drumline', what, detail: null, via: 'job' }, ...lines];
}
