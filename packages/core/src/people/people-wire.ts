import { array, string } from 'yup';
import { count, defineRoutes, id, instant, list, nothing, optionalText, record, text, whole, type Wire } from '../routes';

/** Hours of one day as people type them: "08:30-12:00, 13:00-17:30", or nothing on a day off. */
const hours = () => string().trim().defined().max(200, 'at most 200 characters');
export const SKILL_LEVELS = [1, 2, 3] as const;
const skill = record({ skillId: id(), level: whole(1, 3) });
export const timeOffFormSchema = record({ startsAt: instant(), endsAt: instant(), reason: text(100) }).test(
  'order',
  'it ends after it starts',
  ({ startsAt, endsAt }) => !startsAt || !endsAt || startsAt < endsAt,
);
export const weekFormSchema = record({ week: array(hours()).defined().length(7, 'seven days, Monday first') });
export const personTimeSchema = record({
  id: id(),
  name: text(),
  team: optionalText(),
  week: list(string().defined()),
  skills: list(skill),
  /** What is to come, and what is now. */
  timeOff: list(record({ id: id(), startsAt: instant(), endsAt: instant(), reason: text(100) })),
});
export type PersonTimeWire = Wire<typeof personTimeSchema>;

export const peopleRoutes = defineRoutes({
  listPeopleTime: {
    method: 'GET',
    path: '/people/time',
    summary: 'When technicians work, what they know and when they are away',
    permission: 'setup.read',
    answer: record({ people: list(personTimeSchema), skills: list(record({ id: id(), name: text() })) }),
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
    answer: record({ id: id() }),
  },
  addTimeOff: {
    method: 'POST',
    path: '/people/:personId/time-off',
    summary: 'Write down that somebody is away; tells which bookings lie in it',
    permission: 'setup.edit',
    body: timeOffFormSchema,
    answer: record({ id: id(), bookings: count() }),
  },
  removeTimeOff: {
    method: 'DELETE',
    path: '/time-off/:timeOffId',
    summary: 'Take such a time away again',
    permission: 'setup.edit',
    answer: record({ removed: count() }),
  },
});
