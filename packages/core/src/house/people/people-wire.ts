import { array, string } from 'yup';
import { count, date, defineRoutes, degrees, id, instant, list, nothing, optionalText, record, text, whole, type Wire } from '../../ground';

/** Hours of one day as people type them: "08:30-12:00, 13:00-17:30", or nothing on a day off. */
const hours = () => string().trim().defined().max(200, 'at most 200 characters');
export const SKILL_LEVELS = [1, 2, 3] as const;
const skill = record({ skillId: id('skill'), level: whole(1, 3) });
export const timeOffFormSchema = record({ startsAt: instant(), endsAt: instant(), reason: text(100) }).test(
  'order',
  'it ends after it starts',
  ({ startsAt, endsAt }) => !startsAt || !endsAt || startsAt < endsAt,
);
export const weekFormSchema = record({ week: array(hours()).defined().length(7, 'seven days, Monday first') });
/** A country, perhaps with a region, as lists of public holidays name them: "IE", "US-NY". */
const region = () =>
  string()
    .trim()
    .defined()
    .nullable()
    .max(20)
    .matches(/^[A-Z]{2}(-[A-Z0-9]{1,3})?$/, 'a country such as IE, or one of its regions such as US-NY');
/** Hours of dates instead of those of the week; empty hours are a free day. */
export const shiftFormSchema = record({
  from: date(),
  to: date(),
  weekdays: array(whole(1, 7)).defined().min(1, 'choose a day of the week').max(7),
  hours: hours(),
  note: optionalText(100),
});
/** Where a technician's day begins, and whose public holidays are theirs; what is left empty is the house's. */
export const personPlaceSchema = record({
  region: region(),
  homeName: optionalText(60),
  latitude: degrees(90),
  longitude: degrees(180),
}).test('both', 'give both coordinates or none', ({ latitude, longitude }) => (latitude === null) === (longitude === null));
export const personTimeSchema = record({
  id: id('person'),
  name: text(),
  team: optionalText(),
  week: list(string().defined()),
  skills: list(skill),
  place: record({ region: optionalText(), homeName: optionalText(), latitude: degrees(90), longitude: degrees(180) }),
  /** Hours of single dates instead of those of the week, from today on. */
  shifts: list(record({ day: date(), hours: hours(), note: optionalText(100) })),
  /** What is to come, and what is now. */
  timeOff: list(record({ id: id('time_off'), startsAt: instant(), endsAt: instant(), reason: text(100) })),
});
export type PersonTimeWire = Wire<typeof personTimeSchema>;

export const peopleRoutes = defineRoutes({
  listPeopleTime: {
    method: 'GET',
    path: '/people/time',
    summary: 'When technicians work, what they know and when they are away',
    permission: 'setup.read',
    answer: record({
      people: list(personTimeSchema),
      skills: list(record({ id: id('skill'), name: text() })),
      region: optionalText(),
    }),
  },
  setWeek: {
    method: 'PUT',
    path: '/people/:personId/week',
    summary: "Set a technician's hours of the week",
    permission: 'setup.edit',
    body: weekFormSchema,
    answer: nothing(),
  },
  setSkill: {
    method: 'PUT',
    path: '/people/:personId/skills/:skillId',
    summary: 'Set how well a technician knows something, at a level of 1 to 3; 0 is not at all',
    permission: 'setup.edit',
    body: record({ level: whole(0, 3) }),
    answer: nothing(),
  },
  addSkill: {
    method: 'POST',
    path: '/skills',
    summary: 'Add a skill',
    permission: 'setup.edit',
    body: record({ name: text(40) }),
    answer: record({ id: id('skill') }),
  },
  setShifts: {
    method: 'PUT',
    path: '/people/:personId/shifts',
    summary: 'Set the hours of dates instead of those of the week; empty hours are a free day',
    permission: 'setup.edit',
    body: shiftFormSchema,
    answer: record({ days: count() }),
  },
  removeShift: {
    method: 'DELETE',
    path: '/people/:personId/shifts/:day',
    summary: 'Let the hours of the week hold on a date again',
    permission: 'setup.edit',
    answer: record({ removed: count() }),
  },
  setPersonPlace: {
    method: 'PUT',
    path: '/people/:personId/place',
    summary: 'Say where the day of a technician begins and whose public holidays are theirs',
    permission: 'setup.edit',
    body: personPlaceSchema,
    answer: nothing(),
  },
  setHolidayRegion: {
    method: 'PUT',
    path: '/people/holiday-region',
    summary: 'Set whose public holidays hold for all who have no region of their own',
    permission: 'setup.edit',
    body: record({ region: region() }),
    answer: nothing(),
  },
  addTimeOff: {
    method: 'POST',
    path: '/people/:personId/time-off',
    summary: 'Write down that somebody is away; tells which bookings lie in it',
    permission: 'dispatch.book',
    body: timeOffFormSchema,
    answer: record({ id: id('time_off'), bookings: count() }),
  },
  removeTimeOff: {
    method: 'DELETE',
    path: '/time-off/:timeOffId',
    summary: 'Take such a time away again',
    permission: 'dispatch.book',
    answer: record({ removed: count() }),
  },
});
