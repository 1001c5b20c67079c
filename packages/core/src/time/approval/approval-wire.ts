import { array, string } from 'yup';
import {
  count,
  date,
  defineRoutes,
  done,
  id,
  instant,
  list,
  nothing,
  oneOf,
  optionalDay,
  optionalText,
  parseMinutes,
  record,
  text,
  type Wire,
} from '../../ground';
import { APPROVALS, entryEffectSchema, entryFormSchema, entrySchema, TIME_DECISIONS } from '../time-entries';
import { expenseSchema } from '../expenses';

import { ODD_MARKS } from './mark-odd';

const MOST_AT_ONCE = 500;
const seen = record({ id: id(), version: count() });
export const decisionFormSchema = record({
  entries: array(seen).defined().max(MOST_AT_ONCE, `at most ${MOST_AT_ONCE} at once`),
  expenses: array(seen).defined().max(MOST_AT_ONCE, `at most ${MOST_AT_ONCE} at once`),
  decision: oneOf(TIME_DECISIONS),
  remark: optionalText(500).when('decision', { is: 'return', then: (s) => s.required('say what is to be changed') }),
}).test('some', 'name at least one entry or expense', ({ entries, expenses }) => (entries ?? []).length + (expenses ?? []).length > 0);
export type DecisionForm = Wire<typeof decisionFormSchema>;
/** A decision or change that stands on record. */
export const traceSchema = record({ at: instant(), who: text(), what: text(300), remark: optionalText(500) });
export const judgedEntrySchema = record({
  entry: entrySchema,
  approval: oneOf(APPROVALS),
  odd: list(record({ mark: oneOf(ODD_MARKS), says: text() })),
  trace: list(traceSchema),
});
export type JudgedEntryWire = Wire<typeof judgedEntrySchema>;
/** Somebody's time as it is to be, and why it is changed. */
export const changeTimeSchema = entryFormSchema.concat(record({ because: text(300) }));
export type ChangeTimeForm = Wire<typeof changeTimeSchema>;
export const correctionFormSchema = record({
  /** The minutes that are right, as people type them; 0 takes all away. */
  duration: string()
    .trim()
    .defined()
    .required('write how long it was')
    .max(20)
    .test(
      'duration',
      'a time such as 25, 1:30, 1.5 or 1 h 40, up to 24 hours; 0 takes it all away',
      (v) => parseMinutes(v ?? '') !== undefined,
    ),
  reason: text(300),
});

const [LEAST_LONG, MOST_LONG] = [15, 1440];
/** From how long on time makes a manager look twice, as people type it. */
export const longTimeSchema = record({
  duration: string()
    .trim()
    .defined()
    .required('write how long')
    .max(20)
    .test('long', 'a time such as 5 h or 4:30, from 15 min to 24 hours', (v) => {
      const minutes = parseMinutes(v ?? '');
      return minutes !== undefined && minutes >= LEAST_LONG && minutes <= MOST_LONG;
    }),
});

export const approvalRoutes = defineRoutes({
  getPersonWeek: {
    method: 'GET',
    path: '/approval/:personId',
    summary: "A week of somebody's time and expenses with what is odd about each, and who decided what",
    permission: 'time.approve',
    query: record({ day: optionalDay() }),
    answer: record({
      person: text(),
      days: list(record({ day: date(), expectedMinutes: count(), recordedMinutes: count() })),
      entries: list(judgedEntrySchema),
      expenses: list(record({ expense: expenseSchema, trace: list(traceSchema) })),
    }),
  },
  decideTime: {
    method: 'POST',
    path: '/approval/decisions',
    summary: 'Approve or return time and expenses, or take an approval back; all that is named or nothing',
    permission: 'time.approve',
    body: decisionFormSchema,
    answer: record({ decided: count() }),
  },
  setLongTime: {
    method: 'PUT',
    path: '/house/long-time',
    summary: 'Set from how long on recorded time makes a manager look twice',
    permission: 'setup.edit',
    body: longTimeSchema,
    answer: nothing(),
  },
  changeTimeOf: {
    method: 'PUT',
    path: '/approval/entries/:entryId',
    summary: "Change somebody's time, with a reason that stays on record",
    permission: 'time.approve',
    versioned: true,
    body: changeTimeSchema,
    answer: done(),
  },
  previewChangeOf: {
    method: 'POST',
    path: '/approval/entries/:entryId/preview',
    summary: "What a change of somebody's time would do; nothing is stored",
    permission: 'time.approve',
    body: entryFormSchema.pick(['startsAt', 'duration', 'activityId', 'billable']),
    reads: true,
    answer: record({ effect: entryEffectSchema }),
  },
  previewCorrection: {
    method: 'POST',
    path: '/time-entries/:entryId/corrections/preview',
    summary: 'What a correction of approved time would do to the client; nothing is stored',
    permission: 'time.own',
    body: correctionFormSchema.pick(['duration']),
    reads: true,
    answer: record({ effect: entryEffectSchema }),
  },
  correctTime: {
    method: 'POST',
    path: '/time-entries/:entryId/corrections',
    summary: 'Correct approved time by a row of its own',
    permission: 'time.own',
    body: correctionFormSchema,
    answer: done(),
  },
});
