import {
  defineRoutes,
  distanceTyped,
  durationTyped,
  id,
  list,
  listOf,
  oneOf,
  optionalText,
  record,
  text,
  yes,
  count,
  nothing,
  optionalId,
  type Wire,
} from '../../ground';
import { TIME_SOURCES, TIMED_ACTIONS } from './propose-minutes';

/** The time that an action took, recorded with it in one step. */
export const actionTimeSchema = record({
  duration: durationTyped(),
  activityId: id('activity'),
  billable: yes(),
  reason: optionalText(300).when('billable', { is: false, then: (s) => s.required('say why it is not billable') }),
  /** How far it was, there and back, in the house's unit. */
  distance: distanceTyped().optional(),
});
export type ActionTime = Wire<typeof actionTimeSchema>;
/** As bodies carry it: an action may be without. */
export const optionalActionTime = () => actionTimeSchema.nullable().optional().default(undefined);

export const proposedTimeSchema = record({
  minutes: count(),
  from: oneOf(TIME_SOURCES),
  says: text(),
  activityId: id('activity'),
  /** What may be chosen on tickets of this kind. */
  activities: list(record({ id: id('activity'), name: text(), visit: yes() })),
  distanceUnit: text(10),
  /** Which actions ask for their time on tickets of this kind. */
  asks: list(oneOf(TIMED_ACTIONS)),
});
export type ProposedTimeWire = Wire<typeof proposedTimeSchema>;
export const timeRuleSchema = record({ asks: listOf(oneOf(TIMED_ACTIONS), 50), activityIds: listOf(id('activity'), 100) });

export const actionTimeRoutes = defineRoutes({
  getProposedTime: {
    method: 'GET',
    path: '/work/:workId/proposed-time',
    summary: 'How long what you do on work took, as far as timer, booking and history tell, and what may be chosen',
    permission: 'time.own',
    answer: proposedTimeSchema,
  },
  setUsualActivity: {
    method: 'PUT',
    path: '/house/desks/:deskId/usual-activity',
    summary: 'Set what work of a desk usually is; none leaves it to the person',
    permission: 'setup.edit',
    body: record({ activityId: optionalId('activity') }),
    answer: nothing(),
  },
});
