import { array, boolean, string } from 'yup';
import { TAX_CATEGORIES } from '../../goods';
import { CHARGE_TEXT, CHARGE_UNITS, DETAILS_TEXT, LINK_DOES } from '../charges';
import {
  amount,
  anyId,
  count,
  date,
  decimal,
  defineRoutes,
  id,
  instant,
  list,
  oneOf,
  optionalDate,
  optionalId,
  optionalInstant,
  optionalText,
  pageOf,
  pageQuery,
  record,
  shape,
  earlierStory,
  storySchema,
  text,
  whole,
  why,
  yes,
  type Wire,
} from '../../ground';
import { DOCUMENT_KINDS, type Party } from './invoice';

export const INVOICE_STATES = ['open', 'overdue', 'part paid', 'paid', 'credit left', 'credit used'] as const;
const rowFields = {
  id: id('invoice'),
  kind: oneOf(DOCUMENT_KINDS),
  number: text(),
  clientId: id('client'),
  client: text(),
  /** What it is for, where the client gets several. */
  billedFor: optionalText(),
  issuedOn: date(),
  dueOn: date(),
  gross: amount(),
  left: amount(),
  state: oneOf(INVOICE_STATES),
  mailedAt: optionalInstant(),
  /** A mail server said that its mail did not arrive. */
  undeliveredAt: optionalInstant(),
  ledgerAt: optionalInstant(),
};
export const invoiceRowSchema = record(rowFields);
export type InvoiceRowWire = Wire<typeof invoiceRowSchema>;
/** The most lines that are given back at once by amounts of their own. */
const MOST_LINES = 2000;
const named = record({ id: id('invoice'), number: text() });
/** What a payment or a credit note settles of an invoice; on a credit note, of which invoice. */
const settlementSchema = record({
  id: id(),
  at: instant(),
  amount: amount(),
  from: oneOf(['payment', 'credit note']),
  /** The document at the other end, or of a payment its reference and its day. */
  otherDocument: named.nullable(),
  reference: optionalText(),
  receivedOn: optionalDate(),
  /** Whether it was taken back, or takes one back itself. */
  takenBack: yes(),
});
export type SettlementWire = Wire<typeof settlementSchema>;
const lineFields = {
  description: text(CHARGE_TEXT),
  details: optionalText(DETAILS_TEXT),
  quantity: decimal(),
  unit: oneOf(CHARGE_UNITS),
  unitPrice: decimal(),
  net: amount(),
  taxCategory: oneOf(TAX_CATEGORIES),
  taxPercent: decimal(),
};
export const taxGroupSchema = record({ category: oneOf(TAX_CATEGORIES), percent: decimal(), base: amount(), tax: amount() });
const trail = record({
  chargeId: id('charge'),
  does: oneOf(LINK_DOES),
  ticketId: optionalId('ticket'),
  ticketNumber: count().nullable(),
  person: optionalText(),
  why: why(),
});
export const invoiceSchema = record({
  ...rowFields,
  /** The client's own order. */
  purchaseOrder: optionalText(),
  seller: shape<Party>(),
  buyer: shape<Party>(),
  lines: list(
    record({
      position: count(),
      ...lineFields,
      trail: list(trail),
      /** What credit notes have left of it; null where all of it was given back, and on a credit note. */
      left: amount().nullable(),
    }),
  ),
  groups: list(taxGroupSchema),
  net: amount(),
  tax: amount(),
  /** What payments and credit notes settled of it; of a credit note, what was used of it. */
  settled: amount(),
  /** Of a credit note: the invoice it corrects, why, and whether the billing is undone or the money given back for good. */
  corrects: named.nullable(),
  reason: optionalText(1000),
  undoes: boolean().defined().nullable(),
  credits: list(record({ id: id('invoice'), number: text(), gross: amount(), undoes: yes() })),
  settlements: list(settlementSchema),
  story: list(storySchema),
});
export type InvoiceWire = Wire<typeof invoiceSchema>;

/** What waits for an invoice of a client; a credit note where it comes to less than nothing. */
export const draftSchema = record({
  clientId: id('client'),
  client: text(),
  kind: oneOf(DOCUMENT_KINDS),
  charges: count(),
  groups: list(taxGroupSchema),
  net: amount(),
  tax: amount(),
  gross: amount(),
});
export type DraftWire = Wire<typeof draftSchema>;
export const draftLineSchema = record({ ...lineFields, chargeId: id('charge') });
export type DraftLineWire = Wire<typeof draftLineSchema>;

/** Issues what was seen: some charges by their ids, or all that wait, if they still come to the same. */
export const issueSchema = record({
  clientId: id('client'),
  chargeIds: array(anyId().defined()).defined().nullable().min(1, 'choose at least one charge').max(2000),
  grossMinor: count().nullable(),
});
export type IssueForm = Wire<typeof issueSchema>;

/** Gives back lines of an invoice: all that is left of them, or an amount of each, typed in major units. */
export const creditSchema = record({
  lines: array(record({ position: whole(1, 100_000), net: decimal() }))
    .defined()
    .nullable()
    .min(1, 'choose at least one line')
    .max(MOST_LINES),
  undoes: yes(),
  reason: text(300),
});
export type CreditForm = Wire<typeof creditSchema>;

export const INVOICE_SORTS = ['-issued', 'due', 'number', 'client', 'gross'] as const;
export const invoiceFilterSchema = pageQuery(INVOICE_SORTS, {
  q: string().max(100),
  clientId: anyId(),
  state: string().oneOf(INVOICE_STATES, `one of ${INVOICE_STATES.join(', ')}`),
});
export type InvoiceFilter = Wire<typeof invoiceFilterSchema>;

export const invoiceRoutes = defineRoutes({
  listInvoices: {
    method: 'GET',
    path: '/invoices',
    summary: 'Issued invoices by filter, sorted, in pages',
    permission: 'invoices.read',
    query: invoiceFilterSchema,
    answer: pageOf(invoiceRowSchema),
  },
  listDrafts: {
    method: 'GET',
    path: '/invoices/drafts',
    summary: 'What cleared charges would come to, by client; nothing is stored',
    permission: 'invoices.read',
    query: pageQuery(['client'], { clientId: anyId() }),
    answer: pageOf(draftSchema),
  },
  listDraftLines: {
    method: 'GET',
    path: '/invoices/drafts/:clientId/lines',
    summary: 'The lines that an invoice of all cleared charges of a client would have',
    permission: 'invoices.read',
    query: pageQuery(['on'], {}),
    answer: pageOf(draftLineSchema),
  },
  getInvoice: {
    method: 'GET',
    path: '/invoices/:invoiceId',
    summary: 'An invoice with the trail of each line',
    permission: 'invoices.read',
    answer: invoiceSchema,
  },
  getInvoiceStory: {
    method: 'GET',
    path: '/invoices/:invoiceId/story',
    summary: 'What happened to a document before an event that is known',
    permission: 'invoices.read',
    ...earlierStory,
  },
  issueInvoice: {
    method: 'POST',
    path: '/invoices',
    summary: 'Issue an invoice of cleared charges of a client; a credit note where they come to less than nothing',
    permission: 'invoices.issue',
    body: issueSchema,
    answer: record({ id: id('invoice'), number: text() }),
  },
  creditInvoice: {
    method: 'POST',
    path: '/invoices/:invoiceId/credit-notes',
    summary: 'Issue a credit note of an invoice, whole or in part',
    permission: 'invoices.issue',
    body: creditSchema,
    answer: record({ id: id('invoice'), number: text() }),
  },
  getInvoicePdf: {
    method: 'GET',
    path: '/invoices/:invoiceId/pdf',
    summary: 'The invoice as PDF',
    permission: 'invoices.read',
    file: 'application/pdf',
    answer: text(),
  },
  getInvoiceUbl: {
    method: 'GET',
    path: '/invoices/:invoiceId/ubl',
    summary: 'The invoice as EN 16931 UBL',
    permission: 'invoices.read',
    file: 'application/xml',
    answer: text(),
  },
});
