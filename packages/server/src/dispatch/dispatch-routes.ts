import { dispatchRoutes } from '@core/dispatch';
import { dateOf, parseLocalDate } from '@core/time';
import type { App } from '../app/app';
import { bindRoutes } from '../app/bind-routes';
import { bookTicket, moveBooking, setBookingState } from './book-ticket';
import { readDispatchDay } from './dispatch-read-model';

export function bindDispatch(app: App) {
  const { house } = app;
  return bindRoutes(app, dispatchRoutes, {
    getDispatchDay: ({ db, query, now }) =>
      readDispatchDay(db, house, query.day ? parseLocalDate(query.day) : dateOf(now, house.house.zone), query.teamId, now),
    book: ({ work, body }) => bookTicket(work, house, body.ticketId, body),
    moveBooking: ({ work, params, version, body }) => moveBooking(work, params.bookingId, version, body),
    cancelBooking: ({ work, params, version }) => setBookingState(work, house, params.bookingId, version, 'cancelled'),
    restoreBooking: ({ work, params, version }) => setBookingState(work, house, params.bookingId, version, 'planned'),
    finishBooking: ({ work, params, version }) => setBookingState(work, house, params.bookingId, version, 'done'),
  });
}
