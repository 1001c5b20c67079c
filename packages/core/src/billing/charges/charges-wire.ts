import { MOST_MEMBERS } from '../../desk';
import { array, boolean, string } from 'yup';
import {
  amount,
  anyId,
  count,
  date,
  decimal,
  defineRoutes,
  done,
  id,
  list,
  oneOf,
  optionalDate,
  optionalDecimal,
  optionalId,
  optionalText,
  pageOf,
  pageQuery,
  positiveDecimal,
  record,
  text,
  whole,
  why,
  yes,
  type Wire,
} from '../../ground';
import { LINK_DOES } from './billing-link';
import { CHARGE_KINDS, CHARGE_STANDINGS, CHARGE_TEXT, CHARGE_UNITS, DECISIONS } from './charge';
import { QUESTION_TEXT } from './charge-questions-wire';
import { ODDITY_NAMES } from './oddities';

export const odditySchema = record({
  is: oneOf(ODDITY_NAMES),
  has: optionalDecimal(),
  beside: optionalDecimal(),
  of: optionalText(CHARGE_TEXT),
});

export const chargeSchema = record({
  id: id('charge'),
  version: count(),
  kind: oneOf(CHARGE_KINDS),
  state: oneOf(CHARGE_STANDINGS),
  clientId: id('client'),
  client: text(),
  ticketId: optionalId('ticket'),
  ticketNumber: count().nullable(),
  person: optionalText(),
  on: date(),
  description: text(CHARGE_TEXT),
  quantity: decimal(),
  unit: oneOf(CHARGE_UNITS),
  unitPrice: decimal(),
  net: amount(),
  /** What documents have not billed of it yet. */
  open: amount(),
  taxPercent: decimal(),
  odd: list(odditySchema),
  /** Of the time that it charges. */
  entryId: optionalId('time_entry'),
  /** No document bills it before that day. */
  heldUntil: optionalDate(),
  heldWhy: optionalText(),
  /** As it was before anybody adjusted it. */
  original: record({ description: text(CHARGE_TEXT), quantity: decimal(), unitPrice: decimal(), net: amount() }).nullable(),
  /** What the client asked about it, with what they were answered. */
  questions: list(
    record({
      id: id('charge_question'),
      askedBy: text(),
      question: text(QUESTION_TEXT),
      answer: optionalText(QUESTION_TEXT),
      answeredBy: optionalText(),
    }),
  ),
  decidedBy: optionalText(),
  reason: optionalText(),
  why: why(),
  /** Documents that bill it, undo that or give its money back. */
  documents: list(record({ id: id('invoice'), number: text(), does: oneOf(LINK_DOES), net: amount() })),
});
export type ChargeWire = Wire<typeof chargeSchema>;

/** What charge review shows: what waits to be decided on, what is held, what waits for an invoice, what is billed, what is waived. */
export const CHARGE_VIEWS = ['proposed', 'held', 'approved', 'billed', 'waived'] as const;
export type ChargeView = (typeof CHARGE_VIEWS)[number];
const filters = {
  state: string().oneOf(CHARGE_VIEWS, `one of ${CHARGE_VIEWS.join(', ')}`),
  clientId: anyId(),
  /** Only what somebody should look at twice. */
  odd: boolean(),
  /** Only what is odd for this. */
  oddIs: string().oneOf(ODDITY_NAMES, `one of ${ODDITY_NAMES.join(', ')}`),
};
export const chargeFilterSchema = pageQuery(['client', 'on'], filters);
export type ChargeFilter = Wire<typeof chargeFilterSchema>;
export const chargeClientsFilterSchema = pageQuery(['client', 'net'], filters);
export type ChargeClientsFilter = Wire<typeof chargeClientsFilterSchema>;
export const chargeClientSchema = record({
  clientId: id('client'),
  client: text(),
  charges: count(),
  odd: count(),
  net: amount(),
  /** Of those that are not odd. */
  notOddNet: amount(),
});
export type ChargeClientWire = Wire<typeof chargeClientSchema>;

/** Approves all charges that wait for a decision: of a client, or of all. */
export const approveAllSchema = record({
  clientId: optionalId('client'),
  /** Whether those with a mark too. */
  odd: yes(),
  /** What whoever approves saw: how many, and what they come to in the smallest unit. Others that came meanwhile are not approved unseen. */
  charges: whole(1, 1_000_000),
  netMinor: count(),
});
export type ApproveAllForm = Wire<typeof approveAllSchema>;
export const decideSchema = record({
  decision: oneOf(DECISIONS),
  reason: optionalText(300).when('decision', {
    is: (d: string) => d === 'waive' || d === 'adjust' || d === 'hold',
    then: (s) => s.required('say why'),
  }),
  quantity: optionalDecimal(),
  unitPrice: optionalDecimal(),
  description: optionalText(CHARGE_TEXT),
  /** Held until that day. */
  until: optionalDate().when('decision', { is: 'hold', then: (s) => s.required('say until when') }),
});
export type DecideForm = Wire<typeof decideSchema>;
export const newChargeSchema = record({ ticketId: id('ticket'), itemId: id('catalogue_item'), quantity: positiveDecimal() });

export const shareSchema = record({
  parts: array(record({ ticketId: id('ticket'), minutes: whole(1, 24 * 60) }))
    .defined()
    .min(1, 'choose at least one member')
    .max(MOST_MEMBERS),
});
export type ShareForm = Wire<typeof shareSchema>;

export const chargeRoutes = defineRoutes({
  listCharges: {
    method: 'GET',
    path: '/charges',
    summary: 'Charges by state and client',
    permission: 'charges.read',
    query: chargeFilterSchema,
    answer: pageOf(chargeSchema),
  },
  listChargeClients: {
    method: 'GET',
    path: '/charges/clients',
    summary: 'How many charges of each client there are and what they come to, over all of them',
    permission: 'charges.read',
    query: chargeClientsFilterSchema,
    answer: record({
      rows: list(chargeClientSchema),
      count: count(),
      countCapped: yes(),
      next: optionalText(600),
      charges: count(),
      net: amount(),
      /** Of those that are not odd. */
      notOdd: record({ charges: count(), net: amount() }),
      /** What is odd, the most frequent first; a charge can be odd for several reasons. */
      oddities: list(record({ is: oneOf(ODDITY_NAMES), charges: count() })),
    }),
  },
  approveAll: {
    method: 'POST',
    path: '/charges/approvals',
    summary: 'Approve all charges that wait for a decision, of a client or of all, at once',
    permission: 'charges.decide',
    body: approveAllSchema,
    answer: record({ id: id(), charges: count(), net: amount() }),
  },
  undoApproval: {
    method: 'POST',
    path: '/charges/approvals/:approvalId/undo',
    summary: 'Take back all that was approved at once',
    permission: 'charges.decide',
    answer: record({ id: id(), charges: count() }),
  },
  getCharge: {
    method: 'GET',
    path: '/charges/:chargeId',
    summary: 'A charge and how it came about',
    permission: 'charges.read',
    answer: chargeSchema,
  },
  addCharge: {
    method: 'POST',
    path: '/charges',
    summary: 'Charge a catalogue item on a ticket',
    permission: 'tickets.work',
    body: newChargeSchema,
    answer: done(),
  },
  shareEntry: {
    method: 'POST',
    path: '/entries/:entryId/share',
    summary: 'Share the time of an umbrella over several clients out to members, each at their own rates',
    permission: 'charges.decide',
    body: shareSchema,
    answer: record({ id: id(), charges: count() }),
  },
  decideCharge: {
    method: 'POST',
    path: '/charges/:chargeId/decision',
    summary: 'Approve, waive, adjust, hold for later or take a decision back',
    permission: 'charges.decide',
    versioned: true,
    body: decideSchema,
    answer: done(),
  },
});
