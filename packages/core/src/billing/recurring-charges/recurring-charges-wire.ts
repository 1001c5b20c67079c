import { seatsChangeSchema } from '../../contracts';
import { amount, count, date, decimal, defineRoutes, id, list, oneOf, record, text, why, type Wire, yes } from '../../ground';

const dueFields = {
  lineId: id('contract_line'),
  line: text(),
  is: oneOf(['new', 'true-up']),
  from: date(),
  /** The first day after it. */
  to: date(),
  period: text(),
  worth: amount(),
  billed: amount(),
  amount: amount(),
  quantity: decimal(),
  price: decimal(),
  why: why(),
  /** It waits in charge review just so. */
  proposed: yes(),
};
export const dueSchema = record(dueFields);
export type DueWire = Wire<typeof dueSchema>;
export const nextInvoiceSchema = record({
  on: date(),
  due: list(dueSchema),
  /** Differences before the periods that are corrected. */
  outOfReach: list(dueSchema),
  total: amount(),
  /** Charges of the contract that are proposed already, and what they come to. */
  proposed: record({ count: count(), net: amount() }),
});
export type NextInvoiceWire = Wire<typeof nextInvoiceSchema>;

export const seatsPreviewSchema = record({
  /** The next day on which something of the lines is due. */
  on: date(),
  before: amount(),
  after: amount(),
  differences: list(record({ line: text(), period: text(), before: amount(), after: amount() })),
});
export type SeatsPreviewWire = Wire<typeof seatsPreviewSchema>;

export const recurringChargeRoutes = defineRoutes({
  getNextInvoice: {
    method: 'GET',
    path: '/contracts/:contractId/next-invoice',
    summary: 'What a run on a day would bill of a contract; nothing is stored',
    permission: 'charges.read',
    query: record({ on: date() }),
    answer: nextInvoiceSchema,
  },
  previewSeats: {
    method: 'POST',
    path: '/clients/:clientId/seats/preview',
    summary: 'What a change of seats does to the next invoice of a client; nothing is stored',
    permission: 'charges.read',
    body: seatsChangeSchema,
    answer: seatsPreviewSchema,
  },
  proposeRecurring: {
    method: 'POST',
    path: '/contracts/:contractId/recurring-charges',
    summary: 'Propose what is due of a contract by a day; a second time on the same facts proposes nothing more',
    permission: 'charges.decide',
    body: record({ on: date() }),
    answer: record({ proposed: count(), net: amount() }),
  },
});
