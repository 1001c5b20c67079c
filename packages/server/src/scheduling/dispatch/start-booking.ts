import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import type { Row } from '../../app/rows';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import { keepChange } from './booking-store';

/** Begins a booking of one's own: its timer runs, and it and its work are underway. */
export async function startBooking(
  work: Work,
  bookingId: Id<'booking'>,
  version: number,
): Promise<Outcome<{ id: Id<'booking'>; version: number; workId: Id<'work'> }>> {
  const booking: Row<'booking', 'state' | 'person_id' | 'work_id'> | undefined = await work
    .tx('booking')
    .where({ id: bookingId })
    .first('state', 'person_id', 'work_id');
  if (!booking) return refuse('not-found', 'There is no such booking.');
  if (booking.person_id !== work.actor.personId) return refuse('not-allowed', 'A booking is begun by the technician who has it.');
  if (booking.state !== 'planned' && booking.state !== 'underway') return refuse('not-possible-now', `This booking is ${booking.state}.`);
  const changed = await changeRow(work, { table: 'booking', id: bookingId, version, set: { state: 'underway', tentative: false } });
  if (isRefusal(changed)) return changed;
  await keepChange(work, bookingId, 'begun');
  await work.tell('booking.begun', bookingId, { workId: booking.work_id });
  return { ...changed, workId: booking.work_id };
}
