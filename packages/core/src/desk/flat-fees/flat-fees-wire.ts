import { array } from 'yup';
import {
  amount,
  count,
  defineRoutes,
  done,
  id,
  list,
  oneOf,
  optionalId,
  optionalRecord,
  optionalText,
  record,
  text,
  whole,
  yes,
  type Wire,
} from '../../ground';

/** Whether the client agreed to the fee, where they must. */
export const FEE_STATES = ['agreed', 'asked', 'refused'] as const;
export type FeeState = (typeof FEE_STATES)[number];
export const FEE_RESULTS = ['success', 'failed'] as const;

const feeFields = {
  name: text(80),
  itemId: id('catalogue_item'),
  /** The client is asked first, and nothing is charged until they agree. */
  asksClient: yes(),
  categoryId: optionalId('category'),
  words: array(text(60))
    .transform((all: unknown) => (Array.isArray(all) ? all.filter((word) => String(word).trim() !== '') : all))
    .defined()
    .max(20, 'at most twenty'),
  forNewPerson: yes(),
  forNewAsset: yes(),
};
export const feeFormSchema = record(feeFields);
export type FeeForm = Wire<typeof feeFormSchema>;
export const feeSchema = record({ id: id('flat_fee'), version: count(), ...feeFields, item: text(), price: amount() });
export type FeeWire = Wire<typeof feeSchema>;
export const setFeeSchema = record({ feeId: id('flat_fee'), quantity: whole(1, 999) });
export const removeFeeSchema = record({ reason: text(300) });
export const feeResultSchema = record({ result: oneOf(FEE_RESULTS), note: optionalText(500) }).test(
  'what failed',
  'say what failed',
  function (value) {
    const { result, note } = value as { result?: string; note?: string | null };
    return result !== 'failed' || note?.trim() ? true : this.createError({ path: 'note', message: 'say what failed' });
  },
);
/** What a ticket's page shows of its fee. */
export const ticketFeeSchema = record({
  fee: optionalRecord({
    feeId: id('flat_fee'),
    name: text(80),
    quantity: count(),
    state: oneOf(FEE_STATES),
    net: amount(),
    chargeState: optionalText(),
    result: optionalText(),
    note: optionalText(500),
  }),
  /** A fee that the job looks like, while it has none. */
  hint: optionalRecord({ feeId: id('flat_fee'), name: text(80), why: text(200) }),
});
export type TicketFeeWire = Wire<typeof ticketFeeSchema>;

export const flatFeeRoutes = defineRoutes({
  listFees: {
    method: 'GET',
    path: '/flat-fees',
    summary: 'The fees that are taken for whole jobs',
    permission: 'signed in',
    answer: record({ fees: list(feeSchema) }),
  },
  addFee: {
    method: 'POST',
    path: '/flat-fees',
    summary: 'Add a flat fee',
    permission: 'setup.edit',
    body: feeFormSchema,
    answer: done(),
  },
  editFee: {
    method: 'PUT',
    path: '/flat-fees/:feeId',
    summary: 'Change a flat fee; tickets that have it keep what was charged',
    permission: 'setup.edit',
    versioned: true,
    body: feeFormSchema,
    answer: done(),
  },
  archiveFee: {
    method: 'POST',
    path: '/flat-fees/:feeId/archive',
    summary: 'Put a flat fee away',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
  getTicketFee: {
    method: 'GET',
    path: '/tickets/:ticketId/fee',
    summary: 'The flat fee of a ticket, or the one it looks like',
    permission: 'tickets.read',
    answer: ticketFeeSchema,
  },
  setFee: {
    method: 'PUT',
    path: '/tickets/:ticketId/fee',
    summary: 'Make a ticket a flat-fee job; the fee is charged once, after the client agreed where they must',
    permission: 'tickets.work',
    body: setFeeSchema,
    answer: record({ id: id('ticket'), state: oneOf(FEE_STATES) }),
  },
  removeFee: {
    method: 'POST',
    path: '/tickets/:ticketId/fee/remove',
    summary: 'Take the flat fee off a ticket, with a reason',
    permission: 'charges.decide',
    body: removeFeeSchema,
    answer: record({ id: id('ticket') }),
  },
  setFeeResult: {
    method: 'POST',
    path: '/tickets/:ticketId/fee/result',
    summary: 'Say whether the job succeeded, or what failed',
    permission: 'tickets.work',
    body: feeResultSchema,
    answer: record({ id: id('ticket') }),
  },
  dismissFeeHint: {
    method: 'POST',
    path: '/tickets/:ticketId/fee/none',
    summary: 'Say that it is no flat-fee job, though it looks like one',
    permission: 'tickets.work',
    answer: record({ id: id('ticket') }),
  },
});
