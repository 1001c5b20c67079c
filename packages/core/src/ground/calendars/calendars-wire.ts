import { array, string } from 'yup';
import { isRefusal, refuse, type Outcome } from '../outcome';
import { count, defineRoutes, done, id, list, record, text, whole, yes, type Wire } from '../routes';
import { parseLocalDate } from '../time';
import { parseCalendar, type WeeklyCalendar, type WrittenCalendar } from './calendar';

const MOST_DATES = 1000;
/** Hours of one day as people type them: "08:30-12:00, 13:00-17:30", or nothing where it is closed. */
const hours = () => string().trim().defined().max(200, 'at most 200 characters');
const calendarDate = record({ date: text(10), name: text(80), hours: hours() });
export const calendarFormSchema = record({
  name: text(60),
  zone: text(60),
  week: array(hours()).defined().length(7, 'seven days, Monday first'),
  /** Dates with hours of their own, or none: holidays, closures, other hours. */
  dates: array(calendarDate).defined().max(MOST_DATES, `at most ${MOST_DATES}`),
});
export type CalendarForm = Wire<typeof calendarFormSchema>;
export const calendarSchema = record({
  id: id('calendar'),
  version: count(),
  name: text(60),
  zone: text(60),
  week: list(string().defined()),
  dates: list(record({ date: text(10), name: text(80), hours: string().defined() })),
  isProviders: yes(),
  /** The clients whose calendar it is. */
  clients: list(text()),
});
export type CalendarWire = Wire<typeof calendarSchema>;
export const holidaySchema = record({ date: text(10), name: text(200) });
export type HolidayWire = Wire<typeof holidaySchema>;

/** How a calendar is kept: as written down, with what its dates are called. */
export type KeptCalendar = WrittenCalendar & { readonly names?: Readonly<Record<string, string>> };

const parts = (typed: string): string[] =>
  typed
    .split(',')
    .map((h) => h.trim().replace(/\s*[-–]\s*/, '-'))
    .filter(Boolean);

/** Reads a calendar as it was typed; the refusal names the day and what was given. */
export function readCalendar(form: CalendarForm): Outcome<KeptCalendar> {
  const dates = [...form.dates].sort((a, b) => (a.date < b.date ? -1 : 1));
  const twice = dates.find((d, i) => dates[i - 1]?.date === d.date);
  if (twice) return refuse('invalid', `${twice.date} stands twice.`, { dates: `${twice.date} stands twice` });
  const none = dates.find((d) => !isDate(d.date));
  if (none) return refuse('invalid', `"${none.date}" is no date.`, { dates: `${none.date} is no date; write it as 2026-12-25` });
  const kept: KeptCalendar = {
    name: form.name,
    zone: form.zone,
    week: form.week.map(parts),
    dates: Object.fromEntries(dates.map((d) => [d.date, parts(d.hours)])),
    names: Object.fromEntries(dates.map((d) => [d.date, d.name])),
  };
  const read = tryToParse(kept);
  return isRefusal(read) ? read : kept;
}

/** Reads the hours of a week as they are typed, Monday first; the refusal names the day. */
export function readWeek(typed: readonly string[]): Outcome<readonly (readonly string[])[]> {
  const week = typed.map(parts);
  const read = tryToParse({ name: 'week', zone: 'UTC', week });
  return isRefusal(read) ? read : week;
}

function isDate(text: string): boolean {
  try {
    return Boolean(parseLocalDate(text));
  } catch {
    return false;
  }
}

function tryToParse(kept: KeptCalendar): Outcome<WeeklyCalendar> {
  try {
    return parseCalendar(kept);
  } catch (fault) {
    if (!(fault instanceof RangeError)) throw fault;
    const place = fault.message.startsWith('day ') ? 'week' : /zone/i.test(fault.message) ? 'zone' : 'dates';
    return refuse('invalid', `Not right: ${fault.message}.`, { [place]: fault.message });
  }
}

/** A kept calendar as it is typed. */
export function typedCalendar(kept: KeptCalendar): Pick<CalendarForm, 'name' | 'zone' | 'week' | 'dates'> {
  return {
    name: kept.name,
    zone: kept.zone,
    week: kept.week.map((h) => h.join(', ')),
    dates: Object.entries(kept.dates ?? {})
      .map(([date, h]) => ({ date, name: kept.names?.[date] ?? (h.length ? 'other hours' : 'closed'), hours: h.join(', ') }))
      .sort((a, b) => (a.date < b.date ? -1 : 1)),
  };
}

export const calendarRoutes = defineRoutes({
  listCalendars: {
    method: 'GET',
    path: '/calendars',
    summary: 'Calendars of the provider and of clients',
    permission: 'setup.read',
    answer: record({ calendars: list(calendarSchema) }),
  },
  listHolidays: {
    method: 'GET',
    path: '/holidays',
    summary: 'The public holidays of a country, or a region of it, in a year',
    permission: 'setup.read',
    query: record({
      country: string()
        .trim()
        .uppercase()
        .defined()
        .max(60)
        .matches(/^[A-Z]{2}$/, 'two letters, such as IE'),
      region: string().trim().uppercase().max(10),
      year: whole(1900, 2200),
    }),
    answer: record({
      holidays: list(holidaySchema),
      regions: list(record({ code: text(10), name: text(200) })),
      countries: list(record({ code: text(2), name: text(200) })),
    }),
  },
  addCalendar: {
    method: 'POST',
    path: '/calendars',
    summary: 'Add a calendar',
    permission: 'setup.edit',
    body: calendarFormSchema,
    answer: done(),
  },
  editCalendar: {
    method: 'PUT',
    path: '/calendars/:calendarId',
    summary: 'Change a calendar from now on: time counted stays, what falls due is computed again',
    permission: 'setup.edit',
    versioned: true,
    body: calendarFormSchema,
    answer: done(),
  },
});
