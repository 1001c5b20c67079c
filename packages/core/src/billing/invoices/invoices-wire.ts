import { array, string } from 'yup';
import { TAX_CATEGORIES } from '../../goods';
import { CHARGE_UNITS } from '../charges';
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
  optionalId,
  optionalInstant,
  optionalText,
  pageOf,
  pageQuery,
  record,
  shape,
  text,
  why,
  type Wire,
} from '../../ground';
import type { Party } from './invoice';

export const INVOICE_STATES = ['open', 'overdue', 'part paid', 'paid'] as const;
const rowFields = {
  id: id(),
  number: text(),
  clientId: id(),
  client: text(),
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
const lineFields = {
  position: count(),
  description: text(500),
  quantity: decimal(),
  unit: oneOf(CHARGE_UNITS),
  unitPrice: decimal(),
  net: amount(),
  taxCategory: oneOf(TAX_CATEGORIES),
  taxPercent: decimal(),
};
export const taxGroupSchema = record({ category: oneOf(TAX_CATEGORIES), percent: decimal(), base: amount(), tax: amount() });
const trail = record({ chargeId: id(), ticketId: optionalId(), ticketNumber: count().nullable(), person: optionalText(), why: why() });
export const invoiceSchema = record({
  ...rowFields,
  seller: shape<Party>(),
  buyer: shape<Party>(),
  lines: list(record({ ...lineFields, trail: list(trail) })),
  groups: list(taxGroupSchema),
  net: amount(),
  tax: amount(),
  paid: amount(),
  events: list(record({ at: instant(), what: text(), detail: optionalText(1000) })),
});
export type InvoiceWire = Wire<typeof invoiceSchema>;
export const draftSchema = record({
  clientId: id(),
  client: text(),
  lines: list(record({ ...lineFields, chargeId: id() })),
  groups: list(taxGroupSchema),
  net: amount(),
  tax: amount(),
  gross: amount(),
});
export type DraftWire = Wire<typeof draftSchema>;

export const INVOICE_SORTS = ['issued', 'due', 'number', 'client', 'gross'] as const;
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
    answer: record({ drafts: list(draftSchema) }),
  },
  getInvoice: {
    method: 'GET',
    path: '/invoices/:invoiceId',
    summary: 'An invoice with the trail of each line',
    permission: 'invoices.read',
    answer: invoiceSchema,
  },
  issueInvoice: {
    method: 'POST',
    path: '/invoices',
    summary: 'Issue an invoice of cleared charges of a client',
    permission: 'invoices.issue',
    body: record({ clientId: id(), chargeIds: array(anyId().defined()).defined().min(1, 'choose at least one charge').max(2000) }),
    answer: record({ id: id(), number: text() }),
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
