import { actualSpans, bookingOf, type DoneBooking, type WorkedEntry } from '@core/scheduling';
import { dateOf, type Id, type Zone } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';

export interface Worked {
  readonly workId: Id<'work'>;
  readonly personId: Id<'person'> | null;
}

const doneBooking = (b: Row<'booking', 'id' | 'planned_starts_at' | 'planned_ends_at'>): DoneBooking => ({
  id: b.id,
  planned: { from: b.planned_starts_at, to: b.planned_ends_at },
});
const workedEntry = (e: Row<'time_entry', 'id' | 'starts_at' | 'ends_at' | 'booking_id'>): WorkedEntry => ({
  id: e.id,
  span: { from: e.starts_at, to: e.ends_at },
  bookingId: e.booking_id,
});

/**
 * Gives the done bookings of a technician on work the spans that they really took: at once when one is marked
 * done, and again whenever time on it is logged, changed or removed. What was planned stays beside it.
 */
export async function fitBookings(work: Work, zone: Zone, { workId, personId }: Worked): Promise<void> {
  if (!personId) return;
  const mine = { work_id: workId, person_id: personId };
  const rows: Row<'booking', 'id' | 'starts_at' | 'ends_at' | 'planned_starts_at' | 'planned_ends_at'>[] = await work
    .tx('booking')
    .where({ ...mine, state: 'done' })
    .orderBy('planned_starts_at')
    .select('id', 'starts_at', 'ends_at', 'planned_starts_at', 'planned_ends_at');
  if (!rows.length) return;
  const entries: Row<'time_entry', 'id' | 'starts_at' | 'ends_at' | 'booking_id'>[] = await work
    .tx('time_entry')
    .where(mine)
    .whereNull('removed_at')
    .orderBy(['starts_at', 'id'])
    .select('id', 'starts_at', 'ends_at', 'booking_id');
  const spans = actualSpans(rows.map(doneBooking), entries.map(workedEntry), (t) => dateOf(t, zone));
  for (const b of rows) {
    const span = spans.get(b.id)!;
    if (span.from === b.starts_at && span.to === b.ends_at) continue;
    await work
      .tx('booking')
      .where({ id: b.id })
      .update({ starts_at: at(span.from), ends_at: at(span.to), version: work.tx.raw('version + 1') });
    await work.tell('booking.fitted', b.id, {});
  }
}

/** Time of a technician that fits several of their done bookings equally, and that they did not decide on yet. */
export async function readQuestions(
  db: Db,
  { zone, personId, since }: { readonly zone: Zone; readonly personId: Id<'person'>; readonly since: string },
) {
  const bookings: Row<'booking'>[] = await db('booking')
    .where({ person_id: personId, state: 'done' })
    .where('planned_ends_at', '>', since)
    .orderBy(['planned_starts_at', 'id']);
  const entries: (Row<'time_entry'> & Row<'work_facts', 'number' | 'subject'>)[] = await db('time_entry as e')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .where({ 'e.person_id': personId })
    .whereNull('e.removed_at')
    .whereNull('e.booking_id')
    .where('e.ends_at', '>', since)
    .whereIn('e.work_id', [...new Set(bookings.map((b) => b.work_id))])
    .orderBy(['e.starts_at', 'e.id'])
    .select('e.*', 'w.number', 'w.subject');
  return entries.flatMap((entry) => {
    const own = bookings.filter((b) => b.work_id === entry.work_id);
    const belonging = bookingOf(workedEntry(entry), own.map(doneBooking), (t) => dateOf(t, zone));
    if (!belonging?.equally.length) return [];
    const fits = own.filter((b) => b.id === belonging.bookingId || belonging.equally.includes(b.id));
    return [{ entry, bookings: fits }];
  });
}
