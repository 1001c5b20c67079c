import { string } from 'yup';
import { count, defineRoutes, id, instant, list, optionalInstant, optionalText, record, text, type Wire } from '../../ground';

const MOST_FILE_CHARACTERS = 1_500_000;

export const outsideCalendarSchema = record({
  id: id('outside_calendar'),
  name: text(60),
  /** Where it is read from again and again; null where a file was given. */
  address: optionalText(1000),
  /** Appointments still to come, within a year. */
  ahead: count(),
  next: list(record({ startsAt: instant(), endsAt: instant(), summary: text() })),
  readAt: optionalInstant(),
  /** What went wrong at the last try; what was read before stays. */
  trouble: optionalText(500),
});
export type OutsideCalendarWire = Wire<typeof outsideCalendarSchema>;
export const addOutsideCalendarSchema = record({
  name: text(60),
  address: string()
    .trim()
    .defined()
    .nullable()
    .max(1000, 'at most 1000 characters')
    .matches(/^(https?|webcal):\/\/\S+$/i, { message: 'an address such as https://calendars.example/me.ics', excludeEmptyString: true }),
  file: string().defined().nullable().max(MOST_FILE_CHARACTERS, 'a file of at most 1.5 MB'),
});

export const outsideCalendarRoutes = defineRoutes({
  listOutsideCalendars: {
    method: 'GET',
    path: '/outside-calendars',
    summary: 'Your own calendars from outside, whose appointments show as busy',
    permission: 'time.own',
    answer: record({ calendars: list(outsideCalendarSchema) }),
  },
  addOutsideCalendar: {
    method: 'POST',
    path: '/outside-calendars',
    summary: 'Read a calendar in: from an address again and again, or from an .ics file once',
    permission: 'time.own',
    body: addOutsideCalendarSchema,
    answer: record({ id: id('outside_calendar') }),
  },
  readOutsideCalendar: {
    method: 'POST',
    path: '/outside-calendars/:outsideCalendarId/read',
    summary: 'Read a calendar again now',
    permission: 'time.own',
    answer: record({ id: id('outside_calendar') }),
  },
  removeOutsideCalendar: {
    method: 'DELETE',
    path: '/outside-calendars/:outsideCalendarId',
    summary: 'Read a calendar no more; what it said is no longer shown as busy',
    permission: 'time.own',
    answer: record({ removed: count() }),
  },
});
