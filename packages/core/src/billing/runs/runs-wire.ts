import { boolean, string } from 'yup';
import {
  amount,
  count,
  date,
  decimal,
  defineRoutes,
  id,
  instant,
  list,
  listOf,
  nothing,
  oneOf,
  optionalDate,
  optionalId,
  optionalText,
  pageOf,
  pageQuery,
  record,
  shape,
  text,
  why,
  yes,
  type Wire,
} from '../../ground';
import { SEAT_STATES } from '../../contracts';
import { CHARGE_KINDS, CHARGE_MARKS, CHARGE_TEXT, CHARGE_UNITS, DETAILS_TEXT } from '../charges';
import type { InvoicePart } from '../billing-terms';
import { DOCUMENT_KINDS, taxGroupSchema } from '../invoices';
import { RUN_INVOICE_STATES, RUN_STATES } from './run-state';
import type { RunReason } from './why-differs';

/** The most invoices that are held, given back or issued by name at once. */
const MOST_NAMED = 2000;

const runFields = {
  id: id('billing_run'),
  /** What is due by this day. */
  on: date(),
  state: oneOf(RUN_STATES),
  preparedAt: instant(),
  preparedBy: text(),
  /** Clients to look at, and those that were. */
  clients: count(),
  lookedAt: count(),
  trouble: optionalText(2000),
  invoices: count(),
  issued: count(),
  net: amount(),
};
export const runRowSchema = record(runFields);
export type RunRowWire = Wire<typeof runRowSchema>;
export const runSchema = record({
  ...runFields,
  /** What can be issued now, and how much that differs from the last ones. */
  toIssue: record({ invoices: count(), net: amount(), differs: amount() }),
  /** What is on no invoice of it, as nobody decided on it. */
  undecided: record({ charges: count(), net: amount() }),
});
export type RunWire = Wire<typeof runSchema>;

const invoiceFields = {
  id: id('billing_run_invoice'),
  clientId: id('client'),
  client: text(),
  /** What it is for, where the client gets several. */
  part: shape<InvoicePart>(),
  /** The client's own billing day, where that is not the run's. */
  billedAsOf: optionalDate(),
  state: oneOf(RUN_INVOICE_STATES),
  kind: oneOf(DOCUMENT_KINDS),
  charges: count(),
  net: amount(),
  /** The document that it is compared with. */
  last: record({ id: id('invoice'), number: text(), issuedOn: date(), net: amount() }).nullable(),
  differs: amount(),
  reasons: shape<readonly RunReason[]>(),
  /** Once it is issued. */
  invoiceId: optionalId('invoice'),
  number: optionalText(),
  trouble: optionalText(2000),
  overdue: count(),
};
export const runInvoiceRowSchema = record(invoiceFields);
export type RunInvoiceRowWire = Wire<typeof runInvoiceRowSchema>;
const runLineSchema = record({
  chargeId: id('charge'),
  version: count(),
  kind: oneOf(CHARGE_KINDS),
  description: text(CHARGE_TEXT),
  details: optionalText(DETAILS_TEXT),
  quantity: decimal(),
  unit: oneOf(CHARGE_UNITS),
  unitPrice: decimal(),
  net: amount(),
  odd: list(oneOf(CHARGE_MARKS)),
  ticketId: optionalId('ticket'),
  ticketNumber: count().nullable(),
  contractId: optionalId('contract'),
  held: yes(),
  why: why(),
});
export type RunLineWire = Wire<typeof runLineSchema>;
export const runInvoiceSchema = record({
  ...invoiceFields,
  lines: list(runLineSchema),
  /** All of them; the first are shown. */
  lineCount: count(),
  groups: list(taxGroupSchema),
  gross: amount(),
  undecided: record({ charges: count(), net: amount() }),
  /** What issuing closes of its contracts, or what keeps them open. */
  closes: list(
    record({ contractId: id('contract'), number: count(), name: text(), lastDay: optionalDate(), entries: count(), waiting: count() }),
  ),
  /** Of the client's people and assets, what is worth a look. */
  found: list(record({ state: oneOf(SEAT_STATES), count: count(), monthly: amount() })),
});
export type RunInvoiceWire = Wire<typeof runInvoiceSchema>;

const named = record({ ids: listOf(id('billing_run_invoice').defined(), MOST_NAMED).min(1, 'choose at least one') });
export const issueRunSchema = record({
  /** Null is all that can be issued. */
  ids: listOf(id('billing_run_invoice').defined(), MOST_NAMED).min(1, 'choose at least one').nullable(),
  /** What whoever issues saw: how many, and what they come to without tax. Others are not issued unseen. */
  invoices: count(),
  netMinor: count(),
});
export type IssueRunForm = Wire<typeof issueRunSchema>;

export const RUN_INVOICE_SORTS = ['-differs', 'client', '-net'] as const;

export const runRoutes = defineRoutes({
  listRuns: {
    method: 'GET',
    path: '/billing-runs',
    summary: 'Billing runs, or the one that is open, the newest first, in pages',
    permission: 'invoices.read',
    query: pageQuery(['-on'], { open: boolean() }),
    answer: pageOf(runRowSchema),
  },
  prepareRun: {
    method: 'POST',
    path: '/billing-runs',
    summary: 'Work out all that is due by a day, client by client; a run of that day that is open already is given back',
    permission: 'invoices.issue',
    body: record({ on: date() }),
    answer: record({ id: id('billing_run') }),
  },
  getRun: {
    method: 'GET',
    path: '/billing-runs/:runId',
    summary: 'How far a run is, what it comes to, and what is left behind',
    permission: 'invoices.read',
    answer: runSchema,
  },
  listRunInvoices: {
    method: 'GET',
    path: '/billing-runs/:runId/invoices',
    summary: 'The invoices of a run beside the last ones, with why they differ, in pages',
    permission: 'invoices.read',
    query: pageQuery(RUN_INVOICE_SORTS, { state: string().oneOf(RUN_INVOICE_STATES, `one of ${RUN_INVOICE_STATES.join(', ')}`) }),
    answer: pageOf(runInvoiceRowSchema),
  },
  getRunInvoice: {
    method: 'GET',
    path: '/billing-runs/:runId/invoices/:runInvoiceId',
    summary: 'An invoice of a run line by line',
    permission: 'invoices.read',
    answer: runInvoiceSchema,
  },
  holdRunLine: {
    method: 'POST',
    path: '/billing-runs/:runId/invoices/:runInvoiceId/lines/:chargeId/hold',
    summary: 'Leave a line for the next run',
    permission: 'invoices.issue',
    answer: nothing(),
  },
  releaseRunLine: {
    method: 'POST',
    path: '/billing-runs/:runId/invoices/:runInvoiceId/lines/:chargeId/release',
    summary: 'Put a line that was held back on the invoice',
    permission: 'invoices.issue',
    answer: nothing(),
  },
  holdRunInvoices: {
    method: 'POST',
    path: '/billing-runs/:runId/hold',
    summary: 'Leave invoices for the next run',
    permission: 'invoices.issue',
    body: named,
    answer: record({ changed: count() }),
  },
  releaseRunInvoices: {
    method: 'POST',
    path: '/billing-runs/:runId/release',
    summary: 'Put invoices that were held back into the run',
    permission: 'invoices.issue',
    body: named,
    answer: record({ changed: count() }),
  },
  issueRun: {
    method: 'POST',
    path: '/billing-runs/:runId/issue',
    summary: 'Issue invoices of a run, one transaction each; what comes to something else by then is shown again instead',
    permission: 'invoices.issue',
    body: issueRunSchema,
    answer: record({ invoices: count() }),
  },
  putRunAway: {
    method: 'POST',
    path: '/billing-runs/:runId/put-away',
    summary: 'End a run; what was not issued waits for the next',
    permission: 'invoices.issue',
    answer: nothing(),
  },
});
