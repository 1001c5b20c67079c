import { type Id, type Outcome, refuse } from '@core/ground';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { keepChange, settleDays } from '../dispatch/booking-store';

/** How openings end: the client took one or wants none, dispatch let them go, or nobody answered in time. */
export type OpeningsEnd = 'taken' | 'declined' | 'released' | 'lapsed';
const WHY: Readonly<Record<OpeningsEnd, string>> = {
  taken: 'another opening was taken',
  declined: 'none of the openings suits the client',
  released: 'the openings were let go',
  lapsed: 'no opening was taken in time',
};

/** Ends a set of openings; those that nobody takes are free again. Whoever ends a set holds its row. */
export async function endOpenings(
  work: Work,
  book: HouseBook,
  {
    setId,
    end,
    keptBookingId = null,
  }: { readonly setId: Id<'opening_set'>; readonly end: OpeningsEnd; readonly keptBookingId?: Id<'booking'> | null },
): Promise<Outcome<{ released: number }>> {
  const [set] = await work
    .tx('opening_set')
    .where({ id: setId, state: 'open' })
    .update({ state: end, ended_at: at(work.now) })
    .returning('ticket_id');
  if (!set) return refuse('not-possible-now', 'These openings have ended already.');
  const released = await letGo(work, book, { bookings: (await heldBy(work, setId)).filter((b) => b.id !== keptBookingId), why: WHY[end] });
  if (end !== 'taken') await work.tell('ticket.openings-ended', set.ticket_id, { why: WHY[end] });
  return { released };
}

/** What a set still holds. */
export async function heldBy(work: Work, setId: Id<'opening_set'>): Promise<Row<'booking'>[]> {
  return work.tx('booking').where({ opening_set_id: setId, state: 'planned', tentative: true }).orderBy('starts_at').forUpdate();
}

/** Frees the time of bookings that were only held; the ticket's status never followed them. */
export async function letGo(
  work: Work,
  book: HouseBook,
  { bookings, why }: { readonly bookings: readonly Row<'booking', 'id' | 'person_id' | 'starts_at'>[]; readonly why: string },
): Promise<number> {
  for (const booking of bookings) {
    await work
      .tx('booking')
      .where({ id: booking.id })
      .update({ state: 'cancelled', cancel_reason: why, version: work.tx.raw('version + 1') });
    await keepChange(work, booking.id, 'cancelled');
    await work.tell('booking.let-go', booking.id, { why });
  }
  await settleDays(
    work,
    book,
    bookings.map((b) => [b.person_id, b.starts_at]),
  );
  return bookings.length;
}
