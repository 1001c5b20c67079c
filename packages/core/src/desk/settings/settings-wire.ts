import { defineRoutes, id, list, listOf, nothing, oneOf, optionalId, record, whole, yes, type Wire } from '../../ground';
import { CHECKED_MOVES, CLOSING_CHECK_NAMES, INSIDE_REACHES, SORTED_KINDS } from '../tickets';
import { TIMED_ACTIONS } from '../action-time';

export const closingSettingsSchema = record({
  /** For each move and kind the checks that must hold before it. */
  rules: listOf(record({ move: oneOf(CHECKED_MOVES), kind: oneOf(SORTED_KINDS), checks: listOf(oneOf(CLOSING_CHECK_NAMES), 50) }), 100),
  /** Checks that the members of an umbrella are asked as well. */
  alwaysAsked: listOf(oneOf(CLOSING_CHECK_NAMES), 50),
  closeAfterDates: whole(1, 60),
  reopenDays: whole(0, 365),
});
export type ClosingSettings = Wire<typeof closingSettingsSchema>;
export const kindRuleSchema = record({
  kind: oneOf(SORTED_KINDS),
  /** Whether it can be chosen. */
  offered: yes(),
  /** The promise of its tickets where the client has none of their own; none takes the house's. */
  promiseId: optionalId('promise'),
  /** Actions that ask for their time. */
  asksTime: listOf(oneOf(TIMED_ACTIONS), 50),
  /** What may be chosen for time on it; all where none is named. */
  activityIds: listOf(id('activity'), 100),
});
export type KindRuleWire = Wire<typeof kindRuleSchema>;
export const deskSettingsSchema = record({
  kinds: list(kindRuleSchema),
  closing: closingSettingsSchema,
  reaches: list(record({ deskId: id('desk'), reach: oneOf(INSIDE_REACHES) })),
});
export type DeskSettingsWire = Wire<typeof deskSettingsSchema>;

export const deskSettingsRoutes = defineRoutes({
  getDeskSettings: {
    method: 'GET',
    path: '/desk-settings',
    summary: 'What holds for each kind of ticket, what must hold before tickets move, and whom each desk shows what is inside',
    permission: 'signed in',
    answer: deskSettingsSchema,
  },
  setClosing: {
    method: 'PUT',
    path: '/desk-settings/closing',
    summary: 'Set the closing checks of each kind, and when tickets close and reopen',
    permission: 'setup.edit',
    body: closingSettingsSchema,
    answer: nothing(),
  },
  setKinds: {
    method: 'PUT',
    path: '/desk-settings/kinds',
    summary: 'Set which kinds are offered, and the promise of each; those not named stay',
    permission: 'setup.edit',
    body: record({ kinds: listOf(kindRuleSchema, 50) }),
    answer: nothing(),
  },
});
