import { amount, count, date, defineRoutes, list, optionalDate, record, type Wire } from '../../ground';

/** A span of a contract that can be closed next, with what is in it. */
const closableSchema = record({
  /** The first day that is open afterwards. */
  to: date(),
  entries: count(),
  /** Charges of them on which nobody decided yet. */
  undecided: count(),
  /** What is to be paid for them, over what is covered. */
  pays: amount(),
});
export const closingsSchema = record({
  /** The first day that is open; null where nothing is closed. */
  closedTo: optionalDate(),
  next: list(closableSchema),
});
export type ClosingsWire = Wire<typeof closingsSchema>;

export const closingRoutes = defineRoutes({
  getClosings: {
    method: 'GET',
    path: '/contracts/:contractId/closings',
    summary: 'Up to when a contract is closed, and what could be closed next',
    permission: 'charges.read',
    answer: closingsSchema,
  },
  closePeriods: {
    method: 'POST',
    path: '/contracts/:contractId/closings',
    summary: 'Close the periods of a contract before a day for good: what their entries drew never changes',
    permission: 'charges.decide',
    body: record({ to: date() }),
    answer: record({ entries: count() }),
  },
});
