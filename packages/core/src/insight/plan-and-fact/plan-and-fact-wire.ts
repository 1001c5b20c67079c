import { number } from 'yup';
import { BOOKING_STATES } from '../../scheduling';
import { count, date, defineRoutes, id, instant, list, oneOf, optionalText, record, text, type Wire, workFields } from '../../ground';
import { GATHERED_BY } from './compare-plan';

const MOST_DAYS = 400;
/** A span of dates, both included. */
const spanFields = {
  from: date(),
  to: date().test('order', 'not before the first day, and within 400 days of it', function (to) {
    const from = (this.parent as { from?: string }).from ?? '';
    const days = (Date.parse(to) - Date.parse(from)) / 86_400_000;
    return days >= 0 && days < MOST_DAYS;
  }),
};
const rowFields = {
  key: text(),
  name: text(),
  bookings: count(),
  done: count(),
  cancelled: count(),
  moved: count(),
  moves: count(),
  plannedMinutes: count(),
  actualMinutes: count(),
  aheadMinutes: count(),
  travelMinutes: count(),
  lostMinutes: number().integer().defined().nullable(),
};
export const planFactSchema = record(rowFields);
export type PlanFactWire = Wire<typeof planFactSchema>;
export const factBookingSchema = record({
  id: id('booking'),
  ...workFields,
  client: optionalText(),
  technician: optionalText(),
  plannedStartsAt: instant(),
  state: oneOf(BOOKING_STATES),
  plannedMinutes: count(),
  /** null where it is not done. */
  actualMinutes: number().integer().defined().nullable(),
  travelMinutes: count(),
  moves: count(),
  cancelReason: optionalText(300),
});
export type FactBookingWire = Wire<typeof factBookingSchema>;

export const planAndFactRoutes = defineRoutes({
  getPlanAndFact: {
    method: 'GET',
    path: '/plan-and-fact',
    summary: 'Planned against actual, lost time, travel and moved bookings of a span, by technician, kind or client',
    permission: 'dispatch.read',
    query: record({ ...spanFields, by: oneOf(GATHERED_BY) }),
    answer: record({ rows: list(planFactSchema), total: record({ ...rowFields, key: optionalText() }) }),
  },
  listFactBookings: {
    method: 'GET',
    path: '/plan-and-fact/bookings',
    summary: 'The bookings behind one row, the latest first; at most 500',
    permission: 'dispatch.read',
    query: record({ ...spanFields, by: oneOf(GATHERED_BY), key: text() }),
    answer: record({ bookings: list(factBookingSchema), count: count() }),
  },
});
