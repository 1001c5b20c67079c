import { array } from 'yup';
import { PRIORITIES } from '../priority';
import {
  count,
  defineRoutes,
  id,
  instant,
  list,
  oneOf,
  optionalId,
  optionalOneOf,
  optionalText,
  record,
  text,
  whole,
  yes,
  type Wire,
} from '../../ground';
import { clockSchema } from './clock-wire';

export const TARGET_CALENDARS = ['provider', 'client', 'round the clock'] as const;
/** The longest target, in minutes of working time: a year round the clock. */
export const MOST_TARGET_MINUTES = 366 * 24 * 60;

/** A target as it is kept: minutes of working time, and on whose calendar. */
const target = () => record({ minutes: whole(1, MOST_TARGET_MINUTES), on: oneOf(TARGET_CALENDARS) });
const each = () => record({ P1: target(), P2: target(), P3: target(), P4: target() });
export const promiseTargetsSchema = record({
  defaultPriority: oneOf(PRIORITIES),
  warnAt: array(whole(1, 99))
    .defined()
    .max(5, 'at most five warnings')
    .test('rising', 'percentages that rise, such as 50 and 75', (all) => (all ?? []).every((p, i) => i === 0 || p > all![i - 1]!)),
  triage: target(),
  response: each(),
  update: each(),
  resolution: each(),
});
export type PromiseTargets = Wire<typeof promiseTargetsSchema>;

export const promiseFormSchema = record({
  name: text(80),
  targets: promiseTargetsSchema,
  /** Also for tickets that are open now: time counted stays, the targets change from now on. */
  applyToOpen: yes(),
});
export type PromiseForm = Wire<typeof promiseFormSchema>;
export const promiseSchema = record({
  id: id('promise'),
  /** The newest version; a change names it and makes the next. */
  version: count(),
  name: text(80),
  targets: promiseTargetsSchema,
  clients: count(),
  openTickets: count(),
  isHouseDefault: yes(),
});
export type PromiseWire = Wire<typeof promiseSchema>;

export const TRY_EVENTS = ['received', 'routed', 'public-contact', 'priority', 'held', 'runs', 'resolved', 'reopened'] as const;
export const tryEventSchema = record({
  at: instant(),
  is: oneOf(TRY_EVENTS),
  /** Of a change of priority. */
  priority: optionalOneOf(PRIORITIES),
  /** Of a hold. */
  reason: optionalText(80),
});
export type TryEvent = Wire<typeof tryEventSchema>;
export const trySchema = record({
  targets: promiseTargetsSchema,
  /** Whose calendar "the client's" is; none takes the provider's. */
  clientId: optionalId('client'),
  events: array(tryEventSchema).defined().min(1, 'at least the receipt').max(100),
  now: instant(),
});
export const segmentSchema = record({ from: instant(), to: instant(), did: oneOf(['ran', 'held', 'stopped']), seconds: count() });
const tried = record({ clock: clockSchema, segments: list(segmentSchema) });

export const promiseRoutes = defineRoutes({
  listPromises: {
    method: 'GET',
    path: '/promises',
    summary: 'Every promise at its newest version',
    permission: 'setup.read',
    answer: record({ promises: list(promiseSchema) }),
  },
  createPromise: {
    method: 'POST',
    path: '/promises',
    summary: 'Add a promise',
    permission: 'setup.edit',
    body: promiseFormSchema,
    answer: record({ id: id('promise'), version: count() }),
  },
  editPromise: {
    method: 'PUT',
    path: '/promises/:promiseId',
    summary: 'Make the next version of a promise; open tickets keep theirs unless asked',
    permission: 'setup.edit',
    versioned: true,
    body: promiseFormSchema,
    answer: record({ id: id('promise'), version: count() }),
  },
  tryPromise: {
    method: 'POST',
    path: '/promises/try',
    summary: 'Events in, clocks with segments out; nothing is stored',
    permission: 'setup.read',
    body: trySchema,
    reads: true,
    answer: record({ clocks: list(tried) }),
  },
});
