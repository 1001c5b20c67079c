import { count, date, defineRoutes, id, instant, list, oneOf, optionalText, record, text, type Wire } from '../routes';

export const FACT_GROUPS = ['technician', 'kind', 'client'] as const;
const figures = {
  bookings: count(),
  done: count(),
  cancelled: count(),
  plannedMinutes: count(),
  actualMinutes: count(),
  longer: count(),
  travelMinutes: count(),
  moved: count(),
};
export const factRowSchema = record({
  group: text(),
  ...figures,
  /** Available time that passed with nothing booked; by technician alone. */
  lostMinutes: count().nullable(),
});
export type FactRowWire = Wire<typeof factRowSchema>;
export const factBookingSchema = record({
  id: id(),
  ticketId: id(),
  number: count(),
  subject: text(),
  client: optionalText(),
  technician: optionalText(),
  plannedStartsAt: instant(),
  plannedMinutes: count(),
  actualMinutes: count(),
  travelMinutes: count(),
  state: text(),
  moved: count(),
  cancelReason: optionalText(300),
});
export type FactBookingWire = Wire<typeof factBookingSchema>;
const span = { from: date(), to: date(), by: oneOf(FACT_GROUPS) };

export const planAndFactRoutes = defineRoutes({
  getPlanAndFact: {
    method: 'GET',
    path: '/plan-and-fact',
    summary: 'What was planned against what it took, over any span, the last day included',
    permission: 'dispatch.read',
    query: record(span),
    answer: record({ rows: list(factRowSchema) }),
  },
  listFactBookings: {
    method: 'GET',
    path: '/plan-and-fact/bookings',
    summary: 'The bookings that a row of plan and fact is made of',
    permission: 'dispatch.read',
    query: record({ ...span, group: text() }),
    answer: record({ bookings: list(factBookingSchema) }),
  },
});
