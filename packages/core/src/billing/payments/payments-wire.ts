import { boolean, string } from 'yup';
import {
  amount,
  anyId,
  date,
  defineRoutes,
  id,
  oneOf,
  optionalId,
  optionalPositiveDecimal,
  optionalText,
  pageOf,
  pageQuery,
  positiveDecimal,
  record,
  text,
  type Wire,
} from '../../ground';

/** Money of clients that may settle invoices: payments, and credit notes. */
export const CREDIT_SOURCES = ['payment', 'credit note'] as const;
export type CreditSource = (typeof CREDIT_SOURCES)[number];

export const creditRowSchema = record({
  source: oneOf(CREDIT_SOURCES),
  id: id(),
  /** The number of a credit note, or what a payment is called. */
  name: text(300),
  /** Null where it is not known whose it is. */
  clientId: optionalId('client'),
  client: optionalText(),
  on: date(),
  amount: amount(),
  /** What it has not settled yet. */
  left: amount(),
});
export type CreditRowWire = Wire<typeof creditRowSchema>;
export const creditFilterSchema = pageQuery(['-received', 'client', 'left'], {
  q: string().max(100),
  clientId: anyId(),
  /** Only what has not settled anything with all of it. */
  left: boolean(),
});
export type CreditFilter = Wire<typeof creditFilterSchema>;

/** Money that came by another way than the ledger. Settles an invoice at once, as far as it goes, where one is named. */
export const newPaymentSchema = record({
  clientId: id('client'),
  amount: positiveDecimal(),
  receivedOn: date(),
  reference: text(200),
  invoiceId: optionalId('invoice'),
});
export type NewPaymentForm = Wire<typeof newPaymentSchema>;
export const settleSchema = record({
  source: oneOf(CREDIT_SOURCES),
  sourceId: id(),
  /** In major units; null for as much as goes. */
  amount: optionalPositiveDecimal(),
});
export type SettleForm = Wire<typeof settleSchema>;

export const paymentRoutes = defineRoutes({
  listCredit: {
    method: 'GET',
    path: '/payments',
    summary: 'Payments and credit notes, with what is left of each',
    permission: 'invoices.read',
    query: creditFilterSchema,
    answer: pageOf(creditRowSchema),
  },
  recordPayment: {
    method: 'POST',
    path: '/payments',
    summary: 'Record money received',
    permission: 'invoices.issue',
    body: newPaymentSchema,
    answer: record({ id: id('payment') }),
  },
  setPaymentClient: {
    method: 'PUT',
    path: '/payments/:paymentId/client',
    summary: 'Say whose a payment is that nobody knew',
    permission: 'invoices.issue',
    body: record({ clientId: id('client') }),
    answer: record({ id: id('payment') }),
  },
  settleInvoice: {
    method: 'POST',
    path: '/invoices/:invoiceId/settlements',
    summary: 'Settle an invoice with a payment or a credit note of the client',
    permission: 'invoices.issue',
    body: settleSchema,
    answer: record({ id: id(), amount: amount() }),
  },
  takeSettlementBack: {
    method: 'POST',
    path: '/settlements/:settlementId/take-back',
    summary: 'Take back what a payment or a credit note settled',
    permission: 'invoices.issue',
    body: record({ reason: text(300) }),
    answer: record({ id: id() }),
  },
});
