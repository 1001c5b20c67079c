/** What other domains use of this one. */
export { datesShown, laneFigures, readLaneFacts, readTechnicians, shownSpan, spanWire } from './dispatch/dispatch-read-model';
export { fitBookings } from './dispatch/fit-bookings';
