import { actualSpans, type DoneBooking, type WorkedEntry } from '@core/dispatch';
import { dateOf, type Zone } from '@core/time';
import { at } from '../app/database';
import type { Work } from '../app/work';

export interface Worked {
  readonly ticketId: string | null;
  readonly personId: string | null;
}

/**
 * Gives the done bookings of a technician on a ticket the spans that they really took: at once when one is marked
 * done, and again whenever time on it is logged, changed or removed. What was planned stays beside it.
 */
export async function fitBookings(work: Work, zone: Zone, { ticketId, personId }: Worked): Promise<void> {
  if (!ticketId || !personId) return;
  const mine = { ticket_id: ticketId, person_id: personId };
  const rows = await work
    .tx('booking')
    .where({ ...mine, state: 'done' })
    .orderBy('planned_starts_at')
    .select('id', 'starts_at', 'ends_at', 'planned_starts_at', 'planned_ends_at');
  if (!rows.length) return;
  const entries = await work
    .tx('time_entry')
    .where(mine)
    .whereNull('removed_at')
    .orderBy(['starts_at', 'id'])
    .select('id', 'starts_at', 'ends_at');
  const spans = actualSpans(
    rows.map((b): DoneBooking => ({ id: b.id, planned: { from: b.planned_starts_at, to: b.planned_ends_at } })),
    entries.map((e): WorkedEntry => ({ id: e.id, span: { from: e.starts_at, to: e.ends_at } })),
    (t) => dateOf(t, zone),
  );
  for (const b of rows) {
    const span = spans.get(b.id)!;
    if (span.from === b.starts_at && span.to === b.ends_at) continue;
    await work
      .tx('booking')
      .where({ id: b.id })
      .update({ starts_at: at(span.from), ends_at: at(span.to), version: work.tx.raw('version + 1') });
    await work.tell({
      subject: 'booking',
      id: b.id,
      what: 'fitted its span to the time that was logged',
    });
  }
}
