import { type Id, type Outcome, ticketIdOf } from '@core/ground';
import type { BookingEvents } from '@core/scheduling';
import type { Work } from '../../app/work';
import { endOpenings } from './end-openings';

/** What a ticket's client was offered ends once something is booked for it after all. */
export async function endOpeningsOfBooked(
  work: Work,
  bookingId: Id<'booking'>,
  { workId }: BookingEvents['booking.became-sure'],
): Promise<Outcome<unknown>> {
  const sets = await work
    .tx('opening_set')
    .where({ ticket_id: ticketIdOf(workId), state: 'open' })
    .select('id');
  for (const { id } of sets) await endOpenings(work, work.book, { setId: id, end: 'taken', keptBookingId: bookingId });
  return {};
}
