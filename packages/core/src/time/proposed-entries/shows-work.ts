import type { BookingEvents } from '../../scheduling';
import type { TimeEvents } from '../events';

/** What dispatch and the clockwork do to a ticket is told of it too, and is nobody's work on it. */
const NO_WORK: readonly (keyof BookingEvents | keyof TimeEvents)[] = [
  'ticket.booked',
  'ticket.openings-offered',
  'ticket.opening-taken',
  'ticket.openings-ended',
  'ticket.time-shared-out',
  'ticket.time-taken',
];

/** Whether an event of a ticket shows that who did it worked on the ticket. */
export function showsWork(happened: string): boolean {
  return !NO_WORK.some((each) => each === happened);
}
