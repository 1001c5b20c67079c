import { CHECKED_MOVES, CLOCK_NAMES, CLOSING_CHECK_NAMES, INSIDE_REACHES, SORTED_KINDS, TIMED_ACTIONS } from '../../desk';
import { count, defineRoutes, id, list, listOf, nothing, oneOf, optionalId, record, text, whole, yes, type Wire } from '../../ground';

/** A target in words that a screen can print: minutes of working time and on which calendar. */
const target = record({ clock: oneOf(CLOCK_NAMES), priority: text(), minutes: count(), calendar: text() });

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
  /** The promise of its tickets where the client has no promise of their own; none takes the house's. */
  promiseId: optionalId(),
  /** Actions that ask for their time. */
  asksTime: listOf(oneOf(TIMED_ACTIONS), 50),
  /** What may be chosen for time on it; all where none is named. */
  activityIds: listOf(id(), 100),
});
export type KindRuleWire = Wire<typeof kindRuleSchema>;
export const houseSchema = record({
  provider: text(),
  zone: text(),
  desks: list(record({ id: id(), name: text(), letter: text(1), usualActivityId: optionalId(), insideReach: oneOf(INSIDE_REACHES) })),
  activities: list(record({ id: id(), name: text(), visit: yes() })),
  /** What distances are measured in. */
  distanceUnit: text(10),
  /** Recorded time of more minutes makes a manager look twice. */
  longMinutes: count(),
  grades: list(record({ id: id(), name: text() })),
  calendars: list(record({ id: id(), name: text(), zone: text(), hours: list(text()) })),
  promises: list(record({ name: text(), version: count(), targets: list(target) })),
  closing: closingSettingsSchema,
  kinds: list(kindRuleSchema),
  /** Not there for who may not see rates. */
  rates: list(record({ level: text(), grade: text(), activity: text(), band: text(), rate: text(), client: text() })).optional(),
});
export type HouseWire = Wire<typeof houseSchema>;

export const houseRoutes = defineRoutes({
  getHouse: {
    method: 'GET',
    path: '/house',
    summary: 'Desks, activities, grades, calendars, promises and rates of the provider',
    permission: 'signed in',
    hides: [{ path: 'rates', needs: 'costs.read' }],
    answer: houseSchema,
  },
  setClosing: {
    method: 'PUT',
    path: '/house/closing',
    summary: 'Set the closing checks of each kind, and when tickets close and reopen',
    permission: 'setup.edit',
    body: closingSettingsSchema,
    answer: nothing(),
  },
  setKinds: {
    method: 'PUT',
    path: '/house/kinds',
    summary: 'Set which kinds are offered, and the promise of each; those not named stay',
    permission: 'setup.edit',
    body: record({ kinds: listOf(kindRuleSchema, 50) }),
    answer: nothing(),
  },
});
