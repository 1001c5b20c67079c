import type { BookingEvents } from '@core/scheduling';
import type { Outcome } from '@core/ground';
import type { Work } from '../../app/work';
import { startTimer } from './timers';

/** Whoever begins a booking works on that from then on. */
export function startTimerOfBooking(work: Work, _: string, { workId }: BookingEvents['booking.begun']): Promise<Outcome<unknown>> {
  return startTimer(work, workId);
}
