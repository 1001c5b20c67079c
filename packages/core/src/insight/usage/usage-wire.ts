import { amount, count, date, defineRoutes, id, list, oneOf, optionalText, record, text } from '../../ground';
import { MEASURES } from '../../contracts';
import { USAGE_TREATMENTS } from './usage-report';

/** From its first day to its last, both counted. */
const span = () =>
  record({ from: date(), to: date() }).test('order', 'the last day is not before the first', ({ from, to }) => !from || !to || from <= to);
const usageTicket = record({
  id: id('ticket'),
  number: count(),
  subject: text(),
  contact: optionalText(),
  status: text(),
  done: optionalText(2000),
  minutes: count(),
  chargedMinutes: count(),
  coveredMinutes: count(),
  net: amount(),
  work: list(
    record({ on: date(), person: text(), activity: text(), minutes: count(), treatment: oneOf(USAGE_TREATMENTS), coveredMinutes: count() }),
  ),
});
export const usageSchema = record({
  provider: text(),
  client: text(),
  clientId: id('client'),
  from: date(),
  to: date(),
  tickets: list(usageTicket),
  minutes: count(),
  chargedMinutes: count(),
  coveredMinutes: count(),
  net: amount(),
  /** Contracts that covered work in the span. */
  contracts: list(
    record({
      number: count(),
      name: text(),
      allowances: list(record({ name: text(), measure: oneOf(MEASURES), granted: count(), used: count(), left: count() })),
    }),
  ),
});

export const usageRoutes = defineRoutes({
  getUsage: {
    method: 'GET',
    path: '/clients/:clientId/usage',
    summary: 'What was done for a client in a span, by ticket; without flat-fee jobs and work that is not billable',
    permission: 'charges.read',
    query: span(),
    answer: usageSchema,
  },
  getUsagePdf: {
    method: 'GET',
    path: '/clients/:clientId/usage.pdf',
    summary: 'The same as a PDF for the client',
    permission: 'charges.read',
    query: span(),
    file: 'application/pdf',
    answer: text(),
  },
  getUsageCsv: {
    method: 'GET',
    path: '/clients/:clientId/usage.csv',
    summary: 'The same as CSV, a row for each piece of work',
    permission: 'charges.read',
    query: span(),
    file: 'text/csv',
    answer: text(),
  },
});
