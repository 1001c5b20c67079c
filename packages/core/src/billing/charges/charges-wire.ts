import { MOST_MEMBERS } from '../../desk';
import { array, string } from 'yup';
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
  optionalDecimal,
  optionalId,
  optionalText,
  positiveDecimal,
  record,
  text,
  whole,
  why,
  type Wire,
} from '../../ground';
import { CHARGE_KINDS, CHARGE_MARKS, CHARGE_STATES, CHARGE_UNITS } from './charge';

export const chargeSchema = record({
  id: id(),
  version: count(),
  kind: oneOf(CHARGE_KINDS),
  state: oneOf(CHARGE_STATES),
  clientId: id(),
  client: text(),
  ticketId: optionalId(),
  ticketNumber: count().nullable(),
  person: optionalText(),
  on: date(),
  description: text(500),
  quantity: decimal(),
  unit: oneOf(CHARGE_UNITS),
  unitPrice: decimal(),
  net: amount(),
  taxPercent: decimal(),
  odd: list(oneOf(CHARGE_MARKS)),
  decidedBy: optionalText(),
  reason: optionalText(),
  why: why(),
  invoiceId: optionalId(),
  invoiceNumber: optionalText(),
});
export type ChargeWire = Wire<typeof chargeSchema>;
export const decideSchema = record({
  decision: oneOf(['approve', 'waive', 'adjust', 'reopen']),
  reason: optionalText(300).when('decision', { is: (d: string) => d === 'waive' || d === 'adjust', then: (s) => s.required('say why') }),
  quantity: optionalDecimal(),
  unitPrice: optionalDecimal(),
});
export const newChargeSchema = record({ ticketId: id(), itemId: id(), quantity: positiveDecimal() });

export const shareSchema = record({
  parts: array(record({ ticketId: id(), minutes: whole(1, 24 * 60) }))
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
    query: record({ state: string().oneOf(CHARGE_STATES), clientId: anyId() }),
    answer: record({ charges: list(chargeSchema) }),
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
    summary: 'Approve, waive, adjust or take a decision back',
    permission: 'charges.decide',
    versioned: true,
    body: decideSchema,
    answer: done(),
  },
});
