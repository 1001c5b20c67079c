import { clockSchema, optionalActionTime, PRIORITIES, ticketFilterSchema } from '../../desk';
import { array, boolean, number, string } from 'yup';
import {
  count,
  date,
  defineRoutes,
  done,
  id,
  instant,
  list,
  oneOf,
  optionalDay,
  optionalId,
  optionalInstant,
  optionalOneOf,
  optionalRecord,
  optionalText,
  record,
  shape,
  text,
  whole,
  why,
  workFields,
  yes,
  type Wire,
} from '../../ground';
import { knownTravelSchema, placeFields } from '../travel';
import type { Beat } from './beat-strip';

export const BOOKING_STATES = ['planned', 'underway', 'done', 'cancelled'] as const;
/** How many days the view shows at once: one, three, the working week, all of it. */
export const DAYS_SHOWN = [1, 3, 5, 7] as const;
export const REPEATS = ['no', 'day', 'weekday', 'week', 'two weeks', 'month'] as const;
export type Repeat = (typeof REPEATS)[number];
export const MOST_REPEATS = 30;
const skillSchema = record({ id: id('skill'), name: text() });

export const bookingSchema = record({
  id: id('booking'),
  version: count(),
  ...workFields,
  client: optionalText(),
  contact: optionalText(),
  phone: optionalText(),
  site: optionalText(),
  priority: optionalOneOf(PRIORITIES),
  dueAt: optionalInstant(),
  personId: optionalId('person'),
  startsAt: instant(),
  endsAt: instant(),
  /** What was planned; a booking that is done shows what it took. */
  plannedStartsAt: instant(),
  plannedEndsAt: instant(),
  state: oneOf(BOOKING_STATES),
  travelBefore: count(),
  travelAfter: count(),
  /** Where it is; null where it is done from anywhere. */
  place: optionalRecord(placeFields),
  onSite: yes(),
  tentative: yes(),
  /** Agreed with the client: plans leave it where it is. */
  fixed: yes(),
  bring: optionalText(500),
  crewId: optionalId(),
  seriesId: optionalId(),
  cancelReason: optionalText(300),
  loggedMinutes: count(),
  skill: optionalRecord({ id: id('skill'), name: text() }),
  toldClientAt: optionalInstant(),
  /** The openings it is one of, until the client takes one. */
  held: optionalRecord({ setId: id(), until: instant() }),
});
export type BookingWire = Wire<typeof bookingSchema>;
export const spanSchema = record({ from: instant(), to: instant() });
export const laneDaySchema = record({
  day: date(),
  working: list(spanSchema),
  /** Time off, with what it is. */
  away: list(record({ from: instant(), to: instant(), what: text() })),
  holiday: optionalText(),
  gaps: list(spanSchema),
  beats: shape<Beat[]>(),
  availableMinutes: count(),
  bookedMinutes: count(),
  load: count(),
  freeMinutes: count(),
  lostMinutes: count(),
});
export const laneSchema = record({
  /** null is the lane of bookings without a technician. */
  personId: optionalId('person'),
  name: text(),
  grade: optionalText(),
  team: optionalText(),
  start: optionalRecord(placeFields),
  skills: list(record({ skillId: id('skill'), level: count() })),
  onCall: yes(),
  days: list(laneDaySchema),
  bookings: list(bookingSchema),
  conflicts: list(record({ bookingId: id('booking'), why: text() })),
});
export type LaneWire = Wire<typeof laneSchema>;
export const estimateSchema = record({ minutes: count(), p80: count(), says: text(), why: why() });
export const unbookedSchema = record({
  ...workFields,
  version: count(),
  client: optionalText(),
  site: optionalText(),
  priority: optionalOneOf(PRIORITIES),
  status: text(),
  dueAt: optionalInstant(),
  assigneeId: optionalId('person'),
  needsVisit: yes(),
  place: optionalRecord(placeFields),
  skill: optionalRecord({ id: id('skill'), name: text() }),
  estimate: estimateSchema,
  clocks: list(clockSchema),
});
export type UnbookedWire = Wire<typeof unbookedSchema>;
export const dispatchSchema = record({
  days: list(record({ day: date(), from: instant(), to: instant() })),
  now: instant(),
  lanes: list(laneSchema),
  known: list(knownTravelSchema),
  teams: list(record({ id: id('team'), name: text() })),
  skills: list(skillSchema),
});
export type DispatchWire = Wire<typeof dispatchSchema>;
export const myWeekSchema = record({
  days: list(record({ day: date(), from: instant(), to: instant() })),
  now: instant(),
  lane: laneSchema,
  /** What your calendars read in say, with the words that others do not see. */
  outside: list(record({ from: instant(), to: instant(), summary: text(), calendar: text() })),
  recorded: list(spanSchema),
});
export type MyWeekWire = Wire<typeof myWeekSchema>;

const slotFields = {
  personId: optionalId('person'),
  startsAt: instant(),
  minutes: whole(5, 1440),
  onSite: boolean().default(false),
  tentative: boolean().default(false),
  fixed: boolean().default(false),
  bring: string().trim().nullable().max(500, 'at most 500 characters').default(null),
  tellClient: boolean().default(false),
};
export const bookSchema = record({
  workId: id('work'),
  ...slotFields,
  /** Others who come along, each with a booking at the same time. */
  withIds: array(id()).max(20, 'at most 20').default([]),
  repeat: string().oneOf(REPEATS).default('no'),
  times: number()
    .typeError('a whole number')
    .integer('a whole number')
    .min(1, 'at least 1')
    .max(MOST_REPEATS, `at most ${MOST_REPEATS} times`)
    .default(1),
});
export type BookForm = Wire<typeof bookSchema>;
/** What is left out stays as it is. */
export const moveBookingSchema = record({
  personId: optionalId('person'),
  startsAt: instant(),
  minutes: whole(5, 1440),
  onSite: boolean(),
  tentative: boolean(),
  fixed: boolean(),
  bring: string().trim().nullable().max(500, 'at most 500 characters'),
  tellClient: boolean().default(false),
});
export type MoveForm = Wire<typeof moveBookingSchema>;

export const dispatchRoutes = defineRoutes({
  getDispatch: {
    method: 'GET',
    path: '/dispatch',
    summary: 'Lanes of one or more days with their figures',
    permission: 'dispatch.read',
    query: record({
      day: optionalDay(),
      days: number()
        .oneOf([...DAYS_SHOWN], 'one of 1, 3, 5, 7')
        .default(1),
      /** Ids of teams with commas between; all where nothing is said. */
      teams: string()
        .max(2000)
        .matches(/^[0-9a-f-]{36}(,[0-9a-f-]{36})*$/, 'ids of teams with commas between'),
      cancelled: string().oneOf(['yes']),
    }),
    answer: dispatchSchema,
  },
  getMyWeek: {
    method: 'GET',
    path: '/my-week',
    summary: 'Your own week: bookings, time off, appointments from outside and what you recorded',
    permission: 'time.own',
    query: record({ day: optionalDay() }),
    answer: myWeekSchema,
  },
  listUnbooked: {
    method: 'GET',
    path: '/dispatch/unbooked',
    summary: 'Work without a booking by every filter of tickets, each with its estimate; the most pressing hundred',
    permission: 'dispatch.read',
    query: ticketFilterSchema,
    answer: record({ work: list(unbookedSchema), count: count(), countCapped: yes() }),
  },
  setNeedsVisit: {
    method: 'PUT',
    path: '/tickets/:ticketId/visit',
    summary: 'Whether a ticket needs somebody on site',
    permission: 'tickets.work',
    body: record({ needsVisit: yes() }),
    answer: done(),
  },
  setEstimate: {
    method: 'PUT',
    path: '/tickets/:ticketId/estimate',
    summary: 'Say how long a ticket will take, in minutes; null leaves it to what was learned',
    permission: 'tickets.work',
    body: record({ minutes: number().integer('a whole number').min(5, 'at least 5').max(6000, 'at most 6000').defined().nullable() }),
    answer: done(),
  },
  book: {
    method: 'POST',
    path: '/bookings',
    summary: 'Book work on a lane, several technicians at once, or again and again',
    permission: 'dispatch.book',
    body: bookSchema,
    answer: done(),
  },
  moveBooking: {
    method: 'PUT',
    path: '/bookings/:bookingId',
    summary: 'Move, stretch or change a booking; at another time all who come along move with it',
    permission: 'dispatch.book',
    versioned: true,
    body: moveBookingSchema,
    answer: done(),
  },
  cancelBooking: {
    method: 'POST',
    path: '/bookings/:bookingId/cancel',
    summary: 'Cancel a booking; with it those who come along, or all later ones of its series',
    permission: 'dispatch.book',
    versioned: true,
    body: record({
      reason: string().trim().nullable().max(300, 'at most 300 characters').default(null),
      series: boolean().default(false),
      /** Those of all who come along too. */
      crew: boolean().default(false),
      tellClient: boolean().default(false),
    }),
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
  startBooking: {
    method: 'POST',
    path: '/bookings/:bookingId/start',
    summary: 'Begin a booking: the timer runs, it and its ticket are underway, the client is told if wanted',
    permission: 'time.own',
    versioned: true,
    body: record({ tellClient: boolean().default(false) }),
    answer: done(),
  },
  finishBooking: {
    method: 'POST',
    path: '/bookings/:bookingId/done',
    summary: 'Mark a booking done, with its time if wanted',
    permission: 'time.own',
    versioned: true,
    body: record({ time: optionalActionTime() }),
    answer: done(),
  },
  listQuestions: {
    method: 'GET',
    path: '/bookings/questions',
    summary: 'Your own time that fits several bookings equally',
    permission: 'time.own',
    answer: record({
      questions: list(
        record({
          entryId: id('time_entry'),
          number: count(),
          subject: text(),
          startsAt: instant(),
          endsAt: instant(),
          bookings: list(record({ id: id('booking'), startsAt: instant(), endsAt: instant() })),
        }),
      ),
    }),
  },
  answerQuestion: {
    method: 'POST',
    path: '/bookings/questions/:entryId',
    summary: 'Say which booking an entry belongs to',
    permission: 'time.own',
    body: record({ bookingId: id('booking') }),
    answer: record({ id: id() }),
  },
});
