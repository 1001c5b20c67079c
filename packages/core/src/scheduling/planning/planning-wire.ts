import { array, boolean, string } from 'yup';
import {
  count,
  date,
  defineRoutes,
  id,
  instant,
  list,
  oneOf,
  optionalId,
  optionalInstant,
  optionalText,
  record,
  text,
  why,
  type Wire,
  workFields,
} from '../../ground';
import { number } from 'yup';

export const PLAN_STATES = ['waiting', 'running', 'ready', 'applied', 'failed'] as const;
export const planAskSchema = record({
  /** Whose lanes; every team's where none is named. */
  teamIds: array(id('team')).max(50).default([]),
  day: date(),
  days: number().integer().min(1).max(7, 'at most 7').default(1),
  /** Only brings what collides or lies with somebody who is away to others, and leaves unbooked work alone. */
  onlyRepair: boolean().default(false),
  /** Work that must be in it, such as an emergency. */
  workIds: array(id('work')).max(50).default([]),
});
export type PlanAsk = Wire<typeof planAskSchema>;
export const changeSchema = record({
  pieceId: text(80),
  how: oneOf(['book', 'move', 'hand over']),
  ...workFields,
  client: optionalText(),
  priority: optionalText(),
  personId: id('person'),
  person: text(),
  startsAt: instant(),
  endsAt: instant(),
  travelMinutes: count(),
  wasPerson: optionalText(),
  wasAt: optionalInstant(),
  bookingId: optionalId('booking'),
  bookingVersion: count().nullable(),
  needs: list(string().defined()),
  why: why(),
});
export type ChangeWire = Wire<typeof changeSchema>;
export const planSchema = record({
  id: id('day_plan'),
  state: oneOf(PLAN_STATES),
  /** Share of the rounds that are done, in percent. */
  percent: count(),
  cost: number().defined().nullable(),
  costNow: number().defined().nullable(),
  changes: list(changeSchema),
  /** What found no place, with its numbers. */
  leftOut: list(record(workFields)),
  trouble: optionalText(500),
});
export type PlanWire = Wire<typeof planSchema>;

export const planningRoutes = defineRoutes({
  askForPlan: {
    method: 'POST',
    path: '/plans',
    summary: 'Have a plan made for the unbooked work of teams and days; nothing changes until it is accepted',
    permission: 'dispatch.book',
    body: planAskSchema,
    answer: record({ id: id('day_plan') }),
  },
  getPlan: {
    method: 'GET',
    path: '/plans/:planId',
    summary: 'How far a plan is, or what it would change',
    permission: 'dispatch.book',
    answer: planSchema,
  },
  stopPlan: {
    method: 'POST',
    path: '/plans/:planId/stop',
    summary: 'Stop looking for better; the best so far is kept',
    permission: 'dispatch.book',
    answer: record({ id: id('day_plan') }),
  },
  acceptPlan: {
    method: 'POST',
    path: '/plans/:planId/accept',
    summary: 'Make some changes of a plan, with all that must go with them; all of them or none',
    permission: 'dispatch.book',
    body: record({ pieceIds: array(text(80)).min(1, 'choose one at least').max(1000).defined() }),
    answer: record({ made: count() }),
  },
});
