import { count, defineRoutes, id, list, optionalId, record, text, yes, type Wire } from '../../ground';

export const houseSchema = record({
  provider: text(),
  zone: text(),
  desks: list(record({ id: id('desk'), name: text(), letter: text(1), usualActivityId: optionalId('activity') })),
  activities: list(record({ id: id('activity'), name: text(), visit: yes() })),
  /** What distances are measured in. */
  distanceUnit: text(10),
  /** Recorded time of more minutes makes a manager look twice. */
  longMinutes: count(),
  grades: list(record({ id: id('grade'), name: text() })),
  calendars: list(record({ id: id('calendar'), name: text(), zone: text(), hours: list(text()) })),
  /** Not there for who may not see rates. */
  rates: list(record({ level: text(), grade: text(), activity: text(), band: text(), rate: text(), client: text() })).optional(),
});
export type HouseWire = Wire<typeof houseSchema>;

export const houseRoutes = defineRoutes({
  getHouse: {
    method: 'GET',
    path: '/house',
    summary: 'Desks, activities, grades, calendars and rates of the provider',
    permission: 'signed in',
    hides: [{ path: 'rates', needs: 'costs.read' }],
    answer: houseSchema,
  },
});
