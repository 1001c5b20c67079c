import { array, string, type Schema } from 'yup';
import { APPROVALS } from './approval';
import { LIKELY_BECAUSE } from './likely-work';
import type { Beat } from '../../scheduling';
import {
  amount,
  anyId,
  count,
  date,
  defineRoutes,
  distanceTyped,
  done,
  durationTyped,
  id,
  instant,
  list,
  nothing,
  oneOf,
  optionalDate,
  optionalDay,
  optionalId,
  optionalInstant,
  optionalText,
  record,
  shape,
  text,
  why,
  type Wire,
  workFields,
  yes,
} from '../../ground';

/** What may be left out of a form; it is then none. */
const leftOut = <S extends Schema>(schema: S) => schema.optional() as ReturnType<S['optional']>;

export const timerSchema = record({
  id: id('timer'),
  ...workFields,
  startedAt: instant(),
  runningSince: optionalInstant(),
  seconds: count(),
});
export type TimerWire = Wire<typeof timerSchema>;

/** When work began is typed as an instant; how long as people say it. */
export const entryFormSchema = record({
  /** What was worked on; internal work that has no name where nothing is said. */
  workId: optionalId('work'),
  startsAt: instant(),
  duration: durationTyped(),
  activityId: id('activity'),
  note: optionalText(2000),
  billable: yes(),
  reason: optionalText(300).when('billable', { is: false, then: (s) => s.required('say why it is not billable') }),
  /** For the provider's own eyes. */
  insideNote: leftOut(optionalText(2000)),
  /** How far it was, in the house's unit, with one place. */
  distance: leftOut(distanceTyped()),
  /** The timer of yours that counted it, which ends with it. */
  timerId: leftOut(optionalId()),
});
export type EntryForm = Wire<typeof entryFormSchema>;
export const entryEffectSchema = record({
  amount: amount().nullable(),
  sentence: text(),
  minutes: count(),
  billedMinutes: count(),
  why: why(),
});
export type EntryEffectWire = Wire<typeof entryEffectSchema>;
/** As much of an entry as decides what it does. */
export const previewedEntrySchema = entryFormSchema.pick(['workId', 'startsAt', 'duration', 'activityId', 'billable', 'distance']);
export type PreviewedEntry = Wire<typeof previewedEntrySchema>;
const MOST_PREVIEWED = 100;
export const entrySchema = record({
  id: id('time_entry'),
  version: count(),
  ...workFields,
  client: optionalText(),
  startsAt: instant(),
  endsAt: instant(),
  minutes: count(),
  activity: text(),
  activityId: id('activity'),
  note: optionalText(2000),
  billable: yes(),
  reason: optionalText(),
  insideNote: optionalText(2000),
  distance: optionalText(8),
  /** What it is measured in. */
  distanceUnit: optionalText(10),
  effect: entryEffectSchema,
  frozen: yes(),
  approval: oneOf(APPROVALS),
  /** What a manager said when they returned it. */
  remark: optionalText(500),
  /** It puts right an entry that was approved; its minutes are the difference. */
  corrects: yes(),
});
export type EntryWire = Wire<typeof entrySchema>;
export const daySheetSchema = record({
  day: date(),
  from: instant(),
  to: instant(),
  beats: shape<Beat[]>(),
  expectedMinutes: count(),
  recordedMinutes: count(),
  openMinutes: count(),
  /** Minutes in which this person was active in Drumline; nothing else of it is kept. */
  hereMinutes: count(),
  /** Expected time that passed with nothing recorded, five minutes long at least, with the likely work. */
  open: list(
    record({
      from: instant(),
      to: instant(),
      likely: record({ ...workFields, because: oneOf(LIKELY_BECAUSE) }).nullable(),
    }),
  ),
  /** Where entries lie over each other. */
  overlaps: list(record({ from: instant(), to: instant() })),
  closedAt: optionalInstant(),
  /** The last date up to which this person's time is complete. */
  completeUpTo: optionalDate(),
  entries: list(entrySchema),
  bookings: list(
    record({
      id: id('booking'),
      version: count(),
      ...workFields,
      client: optionalText(),
      site: optionalText(),
      address: optionalText(),
      directions: optionalText(1000),
      contact: optionalText(),
      phone: optionalText(),
      onSite: yes(),
      bring: optionalText(500),
      travelMinutes: count(),
      startsAt: instant(),
      endsAt: instant(),
      state: text(),
    }),
  ),
  /** What is to be done by the end of the day: checklist items and calls with this person's name on them. */
  toDo: list(record({ id: id('checklist_item'), text: text(300), dueAt: instant(), ...workFields })),
  timers: list(timerSchema),
});
export type DaySheetWire = Wire<typeof daySheetSchema>;

export const timeRoutes = defineRoutes({
  listTimers: {
    method: 'GET',
    path: '/timers',
    summary: 'Your running and paused timers',
    permission: 'signed in',
    answer: record({ timers: list(timerSchema) }),
  },
  startTimer: {
    method: 'POST',
    path: '/timers',
    summary: 'Start or resume the timer of work; a running one pauses',
    permission: 'time.own',
    body: record({ workId: id('work') }),
    answer: record({ id: id('timer') }),
  },
  pauseTimer: {
    method: 'POST',
    path: '/timers/:timerId/pause',
    summary: 'Pause a timer',
    permission: 'time.own',
    answer: record({ id: id('timer') }),
  },
  moveTimer: {
    method: 'POST',
    path: '/timers/:timerId/move',
    summary: 'Move what a timer counted to other work; added to what stands there',
    permission: 'time.own',
    body: record({ workId: id('work') }),
    answer: record({ id: id('timer') }),
  },
  setTimerOnOpen: {
    method: 'PUT',
    path: '/timers/on-open',
    summary: 'Say whether opening a ticket starts its timer',
    permission: 'time.own',
    body: record({ on: yes() }),
    answer: nothing(),
  },
  discardTimer: { method: 'DELETE', path: '/timers/:timerId', summary: 'Throw a timer away', permission: 'time.own', answer: nothing() },
  getDaySheet: {
    method: 'GET',
    path: '/day-sheet',
    summary: 'Your day: beat strip, entries, bookings',
    permission: 'time.own',
    query: record({ day: optionalDay() }),
    answer: daySheetSchema,
  },
  closeDay: {
    method: 'POST',
    path: '/day-sheet/close',
    summary: 'Close a day of yours: what is recorded on it stays as it is until it is opened again',
    permission: 'time.own',
    body: record({ day: date() }),
    answer: record({ day: date() }),
  },
  openDay: {
    method: 'POST',
    path: '/day-sheet/open',
    summary: 'Open a closed day again',
    permission: 'time.own',
    body: record({ day: date() }),
    answer: record({ day: date() }),
  },
  declareComplete: {
    method: 'PUT',
    path: '/time-complete',
    summary: 'Declare your time complete up to a date, or take that back with an earlier one',
    permission: 'time.own',
    body: record({ upTo: optionalDate() }),
    answer: record({ upTo: optionalDate() }),
  },
  beHere: {
    method: 'POST',
    path: '/here',
    summary: 'This minute you are active; only how many minutes of a date is kept',
    permission: 'time.own',
    answer: record({ minutes: count() }),
  },
  previewEntry: {
    method: 'GET',
    path: '/time-entries/preview',
    summary: 'What an entry would do, before it is saved',
    permission: 'time.own',
    query: record({
      workId: anyId(),
      startsAt: instant(),
      duration: durationTyped(),
      activityId: id('activity'),
      billable: string().oneOf(['true', 'false']).required(),
      distance: leftOut(distanceTyped()),
      /** The entry that is changed, which does not lie over itself. */
      entryId: anyId(),
    }),
    answer: entryEffectSchema.concat(
      record({
        /** Other time of yours that it would lie over. */
        over: list(record({ from: instant(), to: instant(), number: count().nullable(), what: text() })),
      }),
    ),
  },
  previewEntries: {
    method: 'POST',
    path: '/time-entries/previews',
    summary: 'What several entries would do, in their order; nothing is stored',
    permission: 'time.own',
    body: record({
      entries: array(previewedEntrySchema)
        .defined()
        .required()
        .min(1, 'at least one entry')
        .max(MOST_PREVIEWED, `at most ${MOST_PREVIEWED}`),
    }),
    reads: true,
    answer: record({ effects: list(entryEffectSchema) }),
  },
  listTicketEntries: {
    method: 'GET',
    path: '/tickets/:ticketId/time-entries',
    summary: 'Time recorded on a ticket',
    permission: 'tickets.read',
    answer: record({ entries: list(record({ person: text(), entry: entrySchema })) }),
  },
  addEntry: {
    method: 'POST',
    path: '/time-entries',
    summary: 'Record time',
    permission: 'time.own',
    body: entryFormSchema,
    answer: done(),
  },
  editEntry: {
    method: 'PUT',
    path: '/time-entries/:entryId',
    summary: 'Change a time entry',
    permission: 'time.own',
    versioned: true,
    body: entryFormSchema,
    answer: done(),
  },
  removeEntry: {
    method: 'DELETE',
    path: '/time-entries/:entryId',
    summary: 'Remove a time entry',
    permission: 'time.own',
    versioned: true,
    answer: nothing(),
  },
});
