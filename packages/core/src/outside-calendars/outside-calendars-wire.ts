import { count, defineRoutes, done, id, instant, list, optionalInstant, optionalText, record, text, type Wire } from '../routes';
import { string } from 'yup';

/** A calendar kept elsewhere may be so large at most. */
export const MOST_CALENDAR_BYTES = 2_000_000;
export const outsideCalendarFormSchema = record({
  name: text(60),
  address: string()
    .trim()
    .defined()
    .required('write an address')
    .max(500)
    .matches(/^https?:\/\/\S+$/, 'an address that begins with http:// or https://'),
});
export const outsideCalendarSchema = record({
  id: id(),
  version: count(),
  personId: id(),
  name: text(60),
  address: optionalText(500),
  readAt: optionalInstant(),
  /** Why it could not be read the last time; what was read before stays. */
  trouble: optionalText(500),
  busy: list(record({ from: instant(), to: instant(), summary: text(300) })),
});
export type OutsideCalendarWire = Wire<typeof outsideCalendarSchema>;

export const outsideCalendarRoutes = defineRoutes({
  listOutsideCalendars: {
    method: 'GET',
    path: '/people/:personId/calendars',
    summary: 'Calendars kept elsewhere whose appointments are shown as busy',
    permission: 'time.own',
    answer: record({ calendars: list(outsideCalendarSchema) }),
  },
  addOutsideCalendar: {
    method: 'POST',
    path: '/people/:personId/calendars',
    summary: 'Read a calendar from an address, again and again',
    permission: 'time.own',
    body: outsideCalendarFormSchema,
    answer: done(),
  },
  uploadOutsideCalendar: {
    method: 'POST',
    path: '/people/:personId/calendars/file/:name',
    summary: 'Read a calendar from an .ics file, once; a file of the same name takes its place',
    permission: 'time.own',
    upload: MOST_CALENDAR_BYTES,
    answer: record({ id: id(), version: count(), events: count() }),
  },
  readOutsideCalendar: {
    method: 'POST',
    path: '/calendars/outside/:calendarId/read',
    summary: 'Read it now',
    permission: 'time.own',
    answer: record({ id: id() }),
  },
  removeOutsideCalendar: {
    method: 'DELETE',
    path: '/calendars/outside/:calendarId',
    summary: 'Read it no more; its appointments go',
    permission: 'time.own',
    answer: record({ removed: count() }),
  },
});
