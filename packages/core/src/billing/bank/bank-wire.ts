import { boolean, number, string } from 'yup';
import {
  amount,
  count,
  date,
  defineRoutes,
  id,
  instant,
  list,
  listOf,
  nothing,
  oneOf,
  optionalId,
  optionalText,
  pageOf,
  pageQuery,
  record,
  text,
  whole,
  type Wire,
} from '../../ground';
import { BANK_NAME, BANK_TEXT, MOST_BANK_BYTES } from './bank-statement';
import { MATCH_REASONS } from './propose-match';

/** Where a line of a bank stands. Money that went out is no client's payment. */
export const BANK_LINE_STATES = ['open', 'matched', 'left out', 'went out'] as const;
export type BankLineState = (typeof BANK_LINE_STATES)[number];
/** The most invoices that one line settles, and lines that are decided on at once. */
const MOST_SETTLED = 200;
export const MOST_MATCHED = 500;

const matchSchema = record({
  clientId: id('client'),
  client: text(),
  settles: list(record({ invoiceId: id('invoice'), number: text(), amount: amount() })),
  paymentId: optionalId('payment'),
  over: amount(),
  short: amount(),
  because: list(oneOf(MATCH_REASONS)),
  sure: boolean().defined().required(),
});
export type MatchWire = Wire<typeof matchSchema>;

export const bankLineSchema = record({
  id: id('bank_line'),
  statement: text(),
  account: optionalText(),
  bookedOn: date(),
  amount: amount(),
  payer: optionalText(),
  payerAccount: optionalText(),
  text: optionalText(BANK_TEXT),
  state: oneOf(BANK_LINE_STATES),
  /** Of an open line: what it may be for, the likeliest first. */
  matches: list(matchSchema),
  /** Of a matched line: whose it is, what it settled, and what is left of it. */
  payment: record({
    id: id('payment'),
    clientId: id('client'),
    client: text(),
    settled: list(record({ invoiceId: id('invoice'), number: text(), amount: amount() })),
    left: amount(),
  }).nullable(),
  reason: optionalText(300),
});
export type BankLineWire = Wire<typeof bankLineSchema>;

export const bankFilterSchema = pageQuery(['-booked', 'amount', 'payer'], {
  state: string().oneOf(BANK_LINE_STATES, `one of ${BANK_LINE_STATES.join(', ')}`),
  q: string().max(100),
});
export type BankFilter = Wire<typeof bankFilterSchema>;

const statementSchema = record({
  id: id('bank_statement'),
  name: text(),
  account: optionalText(),
  fileName: text(255),
  readAt: instant(),
  readBy: text(),
  opening: amount().nullable(),
  closing: amount().nullable(),
  /** Lines that are new, that another statement had already, and that the bank announces and has not booked. */
  lines: count(),
  known: count(),
  announced: count(),
  /** Of its new lines, those that nobody decided on yet. */
  open: count(),
});
export type BankStatementWire = Wire<typeof statementSchema>;

/** A column and its number: "date:0,amount:3". */
const COLUMNS = /^(date|amount|in|out|payer|account|text|id):\d{1,2}(,(date|amount|in|out|payer|account|text|id):\d{1,2})*$/;
export const bankFileSchema = record({
  name: text(255),
  /** Of a CSV file, which says neither: whose account it is, which columns are what, and how days are written. */
  account: optionalText(BANK_NAME).optional(),
  columns: string().trim().max(200).matches(COLUMNS, { message: 'such as date:0,amount:3,text:4', excludeEmptyString: true }),
  dayFirst: boolean(),
});
export type BankFileForm = Wire<typeof bankFileSchema>;

export const lineMatchSchema = record({
  lineId: id('bank_line'),
  clientId: id('client'),
  /** In this order; what is over is the client's credit. */
  settles: listOf(record({ invoiceId: id('invoice'), minor: whole(1, Number.MAX_SAFE_INTEGER) }), MOST_SETTLED),
  /** The payment that it is, where it was written down before; it settles what it settled. */
  paymentId: optionalId('payment'),
});
export type LineMatchForm = Wire<typeof lineMatchSchema>;
export const leaveOutSchema = record({ reason: text(300) });
const someLines = record({ ids: listOf(id('bank_line').defined(), MOST_MATCHED).min(1, 'choose at least one') });

export const bankRoutes = defineRoutes({
  readBankFile: {
    method: 'POST',
    path: '/bank-files',
    summary: 'Read a file of bank statements, camt.053 or CSV; the bytes are the body. Lines that are known already are not taken twice',
    permission: 'invoices.issue',
    upload: MOST_BANK_BYTES,
    query: bankFileSchema,
    answer: record({ statements: list(statementSchema) }),
  },
  listBankStatements: {
    method: 'GET',
    path: '/bank-statements',
    summary: 'Bank statements that were read, the newest first, in pages',
    permission: 'invoices.read',
    query: pageQuery(['-read'], {}),
    answer: pageOf(statementSchema),
  },
  listBankLines: {
    method: 'GET',
    path: '/bank-lines',
    summary: 'Lines of bank statements with what they may be for or are, in pages; and what of them is sure',
    permission: 'invoices.read',
    query: bankFilterSchema,
    answer: record({
      rows: list(bankLineSchema),
      count: count(),
      countCapped: boolean().defined().required(),
      next: optionalText(600),
      sure: record({ lines: count(), amount: amount() }),
    }),
  },
  matchBankLine: {
    method: 'POST',
    path: '/bank-lines/matches',
    summary: 'Say what a line is: a payment of a client, and the invoices it settles',
    permission: 'invoices.issue',
    body: lineMatchSchema,
    answer: record({ id: id('payment') }),
  },
  matchSure: {
    method: 'POST',
    path: '/bank-lines/sure-matches',
    summary: 'Match all lines of which it is sure what they are; none where they are not what was seen',
    permission: 'invoices.issue',
    body: record({ lines: whole(1, MOST_MATCHED), minor: number().integer().defined().required() }),
    answer: record({ ids: list(id('bank_line')) }),
  },
  takeMatchesBack: {
    method: 'POST',
    path: '/bank-lines/take-back',
    summary: 'Take matches of lines back: what they settled is owed again',
    permission: 'invoices.issue',
    body: someLines,
    answer: record({ lines: count() }),
  },
  leaveLineOut: {
    method: 'POST',
    path: '/bank-lines/:bankLineId/leave-out',
    summary: 'Say why a line is no payment of a client',
    permission: 'invoices.issue',
    body: leaveOutSchema,
    answer: nothing(),
  },
  putLineBack: {
    method: 'POST',
    path: '/bank-lines/:bankLineId/put-back',
    summary: 'Have a line that was left out matched after all',
    permission: 'invoices.issue',
    answer: nothing(),
  },
});
