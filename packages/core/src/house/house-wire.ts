import { CLOCK_NAMES } from '../clocks';
import { count, defineRoutes, id, list, nothing, oneOf, record, text, whole, type Wire } from '../routes';
import { CLOSING_CHECK_NAMES, SORTED_KINDS } from '../tickets';

/** A target in words that a screen can print: minutes of working time and on which calendar. */
const target = record({ clock: oneOf(CLOCK_NAMES), priority: text(), minutes: count(), calendar: text() });

export const closingSettingsSchema = record({
  /** For each kind the checks that must hold before a ticket of it is resolved. */
  rules: list(record({ kind: oneOf(SORTED_KINDS), checks: list(oneOf(CLOSING_CHECK_NAMES)) })),
  /** Checks that the members of an umbrella are asked as well. */
  alwaysAsked: list(oneOf(CLOSING_CHECK_NAMES)),
  closeAfterDates: whole(1, 60),
  reopenDays: whole(0, 365),
});
export type ClosingSettings = Wire<typeof closingSettingsSchema>;
export const houseSchema = record({
  provider: text(),
  zone: text(),
  desks: list(record({ id: id(), name: text(), letter: text(1) })),
  activities: list(record({ id: id(), name: text() })),
  grades: list(record({ id: id(), name: text() })),
  calendars: list(record({ id: id(), name: text(), zone: text(), hours: list(text()) })),
  policies: list(record({ name: text(), version: count(), targets: list(target) })),
  closing: closingSettingsSchema,
  rates: list(record({ level: text(), grade: text(), activity: text(), band: text(), rate: text(), client: text() })),
});
export type HouseWire = Wire<typeof houseSchema>;

export const houseRoutes = defineRoutes({
  getHouse: {
    method: 'GET',
    path: '/house',
    summary: 'Desks, activities, grades, calendars, policies and rates of the provider',
    permission: 'signed in',
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
});
