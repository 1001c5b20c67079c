import { CLOCK_NAMES } from '../clocks';
import { count, defineRoutes, id, list, oneOf, record, text, type Wire } from '../routes';

/** A target in words that a screen can print: minutes of working time and on which calendar. */
const target = record({ clock: oneOf(CLOCK_NAMES), priority: text(), minutes: count(), calendar: text() });

export const houseSchema = record({
  provider: text(),
  zone: text(),
  desks: list(record({ id: id(), name: text(), letter: text(1) })),
  activities: list(record({ id: id(), name: text() })),
  grades: list(record({ id: id(), name: text() })),
  calendars: list(record({ id: id(), name: text(), zone: text(), hours: list(text()) })),
  policies: list(record({ name: text(), version: count(), targets: list(target) })),
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
});
