import { string } from 'yup';
import { clockSchema } from '../clocks';
import { PRIORITIES } from '../priority';
import {
  count,
  date,
  defineRoutes,
  done,
  id,
  instant,
  list,
  oneOf,
  optionalId,
  optionalOneOf,
  optionalText,
  record,
  shape,
  text,
  whole,
  type Wire,
} from '../routes';
import type { Beat } from './beat-strip';

export const BOOKING_STATES = ['planned', 'underway', 'done', 'cancelled'] as const;
export const bookingSchema = record({
  id: id(),
  version: count(),
  ticketId: id(),
  number: count(),
  subject: text(),
  client: optionalText(),
  priority: optionalOneOf(PRIORITIES),
  personId: optionalId(),
  startsAt: instant(),
  endsAt: instant(),
  /** What was planned; a booking that is done shows what it took. */
  plannedStartsAt: instant(),
  plannedEndsAt: instant(),
  state: oneOf(BOOKING_STATES),
  travelMinutes: count(),
});
export type BookingWire = Wire<typeof bookingSchema>;
export const spanSchema = record({ from: instant(), to: instant() });
export const laneSchema = record({
  personId: id(),
  name: text(),
  grade: optionalText(),
  team: optionalText(),
  working: list(spanSchema),
  timeOff: list(spanSchema),
  bookings: list(bookingSchema),
  gaps: list(spanSchema),
  beats: shape<Beat[]>(),
  availableMinutes: count(),
  bookedMinutes: count(),
  load: count(),
  freeMinutes: count(),
  conflicts: list(record({ bookingId: id(), why: text() })),
});
export type LaneWire = Wire<typeof laneSchema>;
export const unbookedSchema = record({
  ticketId: id(),
  version: count(),
  number: count(),
  subject: text(),
  client: optionalText(),
  priority: optionalOneOf(PRIORITIES),
  estimateMinutes: count(),
  estimateFrom: text(),
  clocks: list(clockSchema),
});
export type UnbookedWire = Wire<typeof unbookedSchema>;
export const dispatchDaySchema = record({
  day: date(),
  from: instant(),
  to: instant(),
  now: instant(),
  lanes: list(laneSchema),
  unbooked: list(unbookedSchema),
  teams: list(record({ id: id(), name: text() })),
});
export type DispatchDayWire = Wire<typeof dispatchDaySchema>;
export const bookSchema = record({ ticketId: id(), personId: optionalId(), startsAt: instant(), minutes: whole(5, 1440) });
export const moveBookingSchema = record({ personId: optionalId(), startsAt: instant(), minutes: whole(5, 1440) });

export const dispatchRoutes = defineRoutes({
  getDispatchDay: {
    method: 'GET',
    path: '/dispatch',
    summary: 'Lanes of a day with their figures, and unbooked work',
    permission: 'dispatch.read',
    query: record({ day: string().matches(/^\d{4}-\d{2}-\d{2}$/), teamId: string().uuid() }),
    answer: dispatchDaySchema,
  },
  book: {
    method: 'POST',
    path: '/bookings',
    summary: 'Book a ticket on a lane',
    permission: 'dispatch.book',
    body: bookSchema,
    answer: done(),
  },
  moveBooking: {
    method: 'PUT',
    path: '/bookings/:bookingId',
    summary: 'Move or stretch a booking',
    permission: 'dispatch.book',
    versioned: true,
    body: moveBookingSchema,
    answer: done(),
  },
  cancelBooking: {
    method: 'POST',
    path: '/bookings/:bookingId/cancel',
    summary: 'Cancel a booking',
    permission: 'dispatch.book',
    versioned: true,
    answer: done(),
  },
  restoreBooking: {
    method: 'POST',
    path: '/bookings/:bookingId/restore',
    summary: 'Bring back a cancelled booking, or one that is not done after all: its plan holds again',
    permission: 'time.own',
    versioned: true,
    answer: done(),
  },
  finishBooking: {
    method: 'POST',
    path: '/bookings/:bookingId/done',
    summary: 'Mark a booking done',
    permission: 'time.own',
    versioned: true,
    answer: done(),
  },
});
