import { array } from 'yup';
import {
  amount,
  count,
  date,
  defineRoutes,
  id,
  list,
  listOf,
  nothing,
  optionalDate,
  optionalId,
  optionalInstant,
  optionalText,
  record,
  text,
  whole,
  yes,
  instant,
  oneOf,
  type Wire,
} from '../../ground';
import { REMINDER_BLANKS, unknownBlanks } from './fill-reminder';

export const MOST_STEPS = 6;
const MOST_CLIENTS = 2000;

const filled = (most: number) =>
  text(most).test('blanks', (value, at) => {
    const [wrong] = unknownBlanks(value ?? '');
    return (
      wrong === undefined ||
      at.createError({ message: `{${wrong}} stands for nothing: ${REMINDER_BLANKS.map((b) => `{${b}}`).join(', ')} do` })
    );
  });
export const reminderStepSchema = record({
  /** Whole days after an invoice was due. */
  afterDays: whole(1, 365),
  subject: filled(200),
  text: filled(4000),
});
export type ReminderStepWire = Wire<typeof reminderStepSchema>;
export const reminderStepsSchema = record({
  /** Whether they are sent every morning without anybody pressing. */
  byThemselves: yes(),
  steps: array(reminderStepSchema.required())
    .defined()
    .max(MOST_STEPS, `at most ${MOST_STEPS} steps`)
    .test('rising', 'each step is later than the one before', (steps) =>
      (steps ?? []).every((s, n) => !n || s.afterDays > steps![n - 1]!.afterDays),
    ),
});
export type ReminderStepsForm = Wire<typeof reminderStepsSchema>;

/** A mail that is due to a client: every invoice of it with the step that it is for, the highest of which says the words. */
export const dueReminderSchema = record({
  clientId: id('client'),
  client: text(),
  to: text(),
  /** The highest step of its invoices, from 1. */
  step: count(),
  invoices: list(record({ id: id('invoice'), number: text(), dueOn: date(), left: amount(), step: count() })),
  total: amount(),
  subject: text(300),
  text: text(20_000),
});
export type DueReminderWire = Wire<typeof dueReminderSchema>;

const pauseSchema = record({
  id: id('reminder_pause'),
  clientId: id('client'),
  client: text(),
  invoiceId: optionalId('invoice'),
  number: optionalText(),
  until: optionalDate(),
  reason: text(300),
  by: text(),
});
export type ReminderPauseWire = Wire<typeof pauseSchema>;
export const newPauseSchema = record({
  clientId: id('client'),
  /** Null pauses all of the client. */
  invoiceId: optionalId('invoice'),
  /** The last day; null until somebody ends it. */
  until: optionalDate(),
  reason: text(300),
});
export type NewPauseForm = Wire<typeof newPauseSchema>;

export const INVOICE_REMINDER_STATES = ['on', 'paused', 'all sent', 'nothing owed'] as const;
export const sentReminderSchema = record({
  id: id('reminder'),
  step: count(),
  at: instant(),
  by: text(),
  to: text(),
  mailedAt: optionalInstant(),
  undeliveredAt: optionalInstant(),
});

export const reminderRoutes = defineRoutes({
  listDueReminders: {
    method: 'GET',
    path: '/reminders/due',
    summary: 'Reminders that are due today, a mail each client, and what is paused',
    permission: 'invoices.read',
    query: nothing(),
    answer: record({ due: list(dueReminderSchema), invoices: count(), total: amount(), paused: list(pauseSchema), byThemselves: yes() }),
  },
  sendReminders: {
    method: 'POST',
    path: '/reminders',
    summary: 'Send the reminders that are due, of some clients or of all; none where they are not what was seen',
    permission: 'invoices.issue',
    body: record({
      clientIds: listOf(id('client').defined(), MOST_CLIENTS).min(1, 'choose at least one').nullable(),
      invoices: count(),
      totalMinor: count(),
    }),
    answer: record({ reminders: count() }),
  },
  getInvoiceReminders: {
    method: 'GET',
    path: '/invoices/:invoiceId/reminders',
    summary: 'What was reminded of an invoice, and when it is next',
    permission: 'invoices.read',
    answer: record({
      sent: list(sentReminderSchema),
      next: record({ is: oneOf(INVOICE_REMINDER_STATES), step: count().nullable(), day: optionalDate() }),
      pauses: list(pauseSchema),
    }),
  },
  pauseReminders: {
    method: 'POST',
    path: '/reminders/pauses',
    summary: 'Send nothing to a client, or of one invoice, for a while',
    permission: 'invoices.issue',
    body: newPauseSchema,
    answer: record({ id: id('reminder_pause') }),
  },
  endPause: {
    method: 'POST',
    path: '/reminders/pauses/:pauseId/end',
    summary: 'End a pause before its day',
    permission: 'invoices.issue',
    answer: nothing(),
  },
  getReminderSteps: {
    method: 'GET',
    path: '/reminders/steps',
    summary: 'The steps of reminding: when, and in which words',
    permission: 'invoices.read',
    answer: record({ version: count(), byThemselves: yes(), steps: list(reminderStepSchema) }),
  },
  setReminderSteps: {
    method: 'PUT',
    path: '/reminders/steps',
    summary: 'Change the steps of reminding',
    permission: 'invoices.issue',
    versioned: true,
    body: reminderStepsSchema,
    answer: record({ version: count() }),
  },
});
