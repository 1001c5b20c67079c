import { string } from 'yup';
import {
  count,
  date,
  defineRoutes,
  done,
  id,
  instant,
  list,
  optionalInstant,
  optionalRecord,
  optionalText,
  record,
  text,
  type Wire,
} from '../../ground';

const wallTime = () =>
  string()
    .trim()
    .defined()
    .required('give a time of day')
    .max(20)
    .matches(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time of day such as 08:30');
export const routineFormSchema = record({
  name: text(60),
  templateId: id('ticket_template'),
  clientId: id('client'),
  contactId: id('contact'),
  rule: text(300),
  startsOn: date(),
  at: wallTime(),
});
export type RoutineForm = Wire<typeof routineFormSchema>;
export const routineSchema = record({
  id: id('routine'),
  version: count(),
  name: text(60),
  templateId: id('ticket_template'),
  template: text(60),
  clientId: id('client'),
  client: text(),
  contactId: id('contact'),
  contact: text(),
  rule: text(300),
  startsOn: date(),
  at: text(5),
  /** The rule in words. */
  says: text(300),
  nextAt: optionalInstant(),
  last: optionalRecord({ at: instant(), ticketId: optionalText(), number: count().nullable(), trouble: optionalText(500) }),
});
export type RoutineWire = Wire<typeof routineSchema>;
export const tryRoutineSchema = record({ rule: text(300), startsOn: date(), at: wallTime() });

export const routineRoutes = defineRoutes({
  listRoutines: {
    method: 'GET',
    path: '/routines',
    summary: 'Routine work: which ticket is opened for whom, and when',
    permission: 'setup.read',
    answer: record({ routines: list(routineSchema) }),
  },
  tryRoutine: {
    method: 'POST',
    path: '/routines/try',
    summary: 'When a rule would turn up next; nothing is stored',
    permission: 'setup.read',
    reads: true,
    body: tryRoutineSchema,
    answer: record({ says: text(300), turns: list(instant()) }),
  },
  addRoutine: {
    method: 'POST',
    path: '/routines',
    summary: 'Add routine work',
    permission: 'setup.edit',
    body: routineFormSchema,
    answer: done(),
  },
  editRoutine: {
    method: 'PUT',
    path: '/routines/:routineId',
    summary: 'Change routine work; tickets it has opened stay',
    permission: 'setup.edit',
    versioned: true,
    body: routineFormSchema,
    answer: done(),
  },
  archiveRoutine: {
    method: 'POST',
    path: '/routines/:routineId/archive',
    summary: 'End routine work',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
});
