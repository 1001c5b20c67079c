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
  optionalId,
  optionalText,
  record,
  text,
  whole,
  why,
  yes,
  type Wire,
} from '../../ground';
import { ABSENCE_DECISIONS, ABSENCE_STATES } from './absence';

const MOST_DAYS = 366;
const MOST_HALVES = 732;
const dayCount = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / 86_400_000;
const spanFields = {
  from: date(),
  to: date().test('order', 'not before the first day, and within a year of it', function (to) {
    const days = dayCount((this.parent as { from?: string }).from ?? '', to);
    return days >= 0 && days < MOST_DAYS;
  }),
};
const daysFields = { ...spanFields, fromMiddle: yes(), toMiddle: yes() };
export const absenceFormSchema = record({
  kindId: id('absence_kind'),
  ...daysFields,
  note: optionalText(300),
  /** Whose it is; nobody named is one's own. For somebody else it stands at once, and needs the permission to approve. */
  personId: optionalId('person').default(null),
}).test('some time', 'it ends before it begins', ({ from, to, fromMiddle, toMiddle }) => from !== to || !fromMiddle || !toMiddle);
export type AbsenceForm = Wire<typeof absenceFormSchema>;

export const absenceKindFormSchema = record({
  name: text(40),
  hasBalance: yes(),
  /** Halves of a day that a year gives, and that may go over into the next. */
  yearHalves: whole(0, MOST_HALVES),
  carryHalves: whole(0, MOST_HALVES),
  carryUntil: string()
    .trim()
    .defined()
    .required('a month and day such as 03-31')
    .max(20)
    .matches(/^(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, 'a month and day such as 03-31'),
});
export const absenceKindSchema = record({
  id: id('absence_kind'),
  version: count(),
  name: text(40),
  hasBalance: yes(),
  yearHalves: count(),
  carryHalves: count(),
  carryUntil: text(5),
});
export type AbsenceKindWire = Wire<typeof absenceKindSchema>;

export const absenceSchema = record({
  id: id('absence'),
  version: count(),
  personId: id('person'),
  person: text(),
  kindId: id('absence_kind'),
  kind: text(),
  from: date(),
  to: date(),
  fromMiddle: yes(),
  toMiddle: yes(),
  note: optionalText(300),
  state: oneOf(ABSENCE_STATES),
  /** Halves of working days that it takes. */
  halves: count(),
  requestedAt: instant(),
  decidedBy: optionalText(),
  remark: optionalText(500),
});
export type AbsenceWire = Wire<typeof absenceSchema>;
export const balanceSchema = record({
  kindId: id('absence_kind'),
  kind: text(),
  granted: count(),
  carried: count(),
  lapsed: count(),
  approved: count(),
  requested: count(),
  left: count(),
  why: why(),
});
export type BalanceWire = Wire<typeof balanceSchema>;

/** Somebody who is away; what for is said only to who approves. */
const missing = record({ personId: id('person'), person: text(), from: date(), to: date(), what: text(), decided: yes() });
export type MissingWire = Wire<typeof missing>;

export const absenceRoutes = defineRoutes({
  listAbsences: {
    method: 'GET',
    path: '/absences',
    summary: 'Your absences of a year, what is left of it, and the kinds there are',
    permission: 'time.own',
    query: record({ year: whole(2000, 2100) }),
    answer: record({ absences: list(absenceSchema), balances: list(balanceSchema), kinds: list(absenceKindSchema) }),
  },
  previewAbsence: {
    method: 'GET',
    path: '/absences/preview',
    summary: 'What an absence would take, what would be left, and who else is away then',
    permission: 'time.own',
    query: record({
      kindId: id('absence_kind'),
      from: date(),
      to: date(),
      fromMiddle: oneOf(['yes', 'no']),
      toMiddle: oneOf(['yes', 'no']),
    }),
    answer: record({
      halves: count(),
      /** After it, by year that it touches; of kinds without a balance none. */
      left: list(record({ year: count(), halves: count() })),
      /** More than there is. */
      overdrawn: count(),
      bookings: count(),
      away: list(missing),
    }),
  },
  requestAbsence: {
    method: 'POST',
    path: '/absences',
    summary: 'Ask for time off; for somebody else it is written down as approved',
    permission: 'time.own',
    body: absenceFormSchema,
    answer: done(),
  },
  withdrawAbsence: {
    method: 'POST',
    path: '/absences/:absenceId/withdraw',
    summary: 'Withdraw an absence of yours that has not begun',
    permission: 'time.own',
    versioned: true,
    answer: done(),
  },
  decideAbsence: {
    method: 'POST',
    path: '/absences/:absenceId/decision',
    summary: 'Approve or refuse an absence, or take that back',
    permission: 'time.approve',
    versioned: true,
    body: record({
      decision: oneOf(ABSENCE_DECISIONS),
      remark: optionalText(500).when('decision', { is: 'refuse', then: (s) => s.required('say why not') }),
    }),
    answer: done(),
  },
  listTeamAbsences: {
    method: 'GET',
    path: '/absences/team',
    summary: 'Who is missing when, over a span of dates, both included; and the public holidays of the house',
    permission: 'time.own',
    query: record(spanFields),
    answer: record({
      people: list(record({ id: id('person'), name: text(), team: optionalText() })),
      missing: list(missing),
      holidays: list(record({ day: date(), name: text() })),
    }),
  },
  listWaitingAbsences: {
    method: 'GET',
    path: '/absences/waiting',
    summary: 'Absences to decide on, each with what is left and who else is away',
    permission: 'time.approve',
    answer: record({
      absences: list(record({ absence: absenceSchema, left: count().nullable(), away: list(missing), bookings: count() })),
      /** What was decided lately, to take back. */
      decided: list(absenceSchema),
    }),
  },
  listAbsenceKinds: {
    method: 'GET',
    path: '/absence-kinds',
    summary: 'Kinds of absence, and what people have of them in a year where it is their own',
    permission: 'setup.read',
    query: record({ year: whole(2000, 2100) }),
    answer: record({
      kinds: list(absenceKindSchema),
      people: list(record({ id: id('person'), name: text() })),
      grants: list(record({ personId: id('person'), kindId: id('absence_kind'), halves: count() })),
    }),
  },
  addAbsenceKind: {
    method: 'POST',
    path: '/absence-kinds',
    summary: 'Add a kind of absence',
    permission: 'setup.edit',
    body: absenceKindFormSchema,
    answer: done(),
  },
  editAbsenceKind: {
    method: 'PUT',
    path: '/absence-kinds/:absenceKindId',
    summary: 'Change a kind of absence',
    permission: 'setup.edit',
    versioned: true,
    body: absenceKindFormSchema,
    answer: done(),
  },
  archiveAbsenceKind: {
    method: 'POST',
    path: '/absence-kinds/:absenceKindId/archive',
    summary: 'Put a kind of absence away; absences that have it stay',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
  setAbsenceGrant: {
    method: 'PUT',
    path: '/absence-kinds/:absenceKindId/grants',
    summary: 'Set what people have of a kind in a year; nothing named is what the kind says',
    permission: 'setup.edit',
    body: record({
      year: whole(2000, 2100),
      grants: array(record({ personId: id('person'), halves: whole(0, MOST_HALVES).nullable() }))
        .defined()
        .max(500),
    }),
    answer: nothing(),
  },
});
