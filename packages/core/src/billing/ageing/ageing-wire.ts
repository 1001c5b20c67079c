import { amount, count, date, defineRoutes, id, list, listOf, nothing, optionalDate, record, text, why, type Wire } from '../../ground';
import { AGES } from './age-of';

export const agedClientSchema = record({
  clientId: id('client'),
  client: text(),
  /** What is left of their invoices, by age, in the order of AGES. */
  ages: listOf(amount(), AGES.length),
  left: amount(),
  overdue: amount(),
  invoices: count(),
  /** Payments and credit notes that have something left. */
  credit: amount(),
  oldestDueOn: date(),
  /** On how many days after they are due this client pays, and how that is known. */
  paysAfter: count(),
  why: why(),
  /** Reminders that were sent of what is overdue, and the day of the last. */
  reminders: count(),
  remindedOn: optionalDate(),
});
export type AgedClientWire = Wire<typeof agedClientSchema>;
const cash = record({ amount: amount(), invoices: count() });
export const ageingSchema = record({
  on: date(),
  ages: listOf(amount(), AGES.length),
  left: amount(),
  overdue: amount(),
  credit: amount(),
  /** Those who owe the most that is overdue first. */
  clients: list(agedClientSchema),
  weeks: list(record({ from: date(), amount: amount(), invoices: count() })),
  later: amount(),
  unknown: cash,
});
export type AgeingWire = Wire<typeof ageingSchema>;

export const ageingRoutes = defineRoutes({
  getAgeing: {
    method: 'GET',
    path: '/ageing',
    summary: 'What clients owe by how long it is overdue, and the cash expected by week',
    permission: 'invoices.read',
    query: nothing(),
    answer: ageingSchema,
  },
});
