import { count, currency, date, defineRoutes, id, list, nothing, oneOf, optionalId, record, text, why, type Wire } from '../../ground';
import { MEASURES } from '../../contracts';

const CHOSEN_BY = ['hand', 'itself'] as const;
/** By hand no contract is by the hour. */
export const contractChoiceSchema = record({ by: oneOf(CHOSEN_BY), contractId: optionalId('contract') });
export type ContractChoice = Wire<typeof contractChoiceSchema>;

const namedContract = record({ id: id('contract'), number: count(), name: text() });
export const ticketContractSchema = record({
  /** For work of today; null is by the hour. */
  contract: namedContract.nullable(),
  by: oneOf(CHOSEN_BY),
  why: why(),
  currency: currency(),
  /** What can be chosen instead: contracts that cover work of its client. */
  offered: list(namedContract),
  /** What is left of the contract today. */
  left: list(
    record({
      name: text(),
      measure: oneOf(MEASURES),
      left: count(),
      /** What could be drawn on when the period began. */
      granted: count(),
      usedPercent: count(),
      /** What of it can be drawn on no more after a day, of the lot that ends first. */
      expires: record({ units: count(), lastDay: date() }).nullable(),
    }),
  ),
});
export type TicketContractWire = Wire<typeof ticketContractSchema>;

export const timeContractRoutes = defineRoutes({
  getTicketContract: {
    method: 'GET',
    path: '/tickets/:ticketId/contract',
    summary: 'The contract that work on a ticket finds today and why, and what is left of it',
    permission: 'contracts.read',
    answer: ticketContractSchema,
  },
  setTicketContract: {
    method: 'PUT',
    path: '/tickets/:ticketId/contract',
    summary: 'Choose the contract of a ticket, or let it find its own; its open work is rated anew',
    permission: 'contracts.choose',
    body: contractChoiceSchema,
    answer: nothing(),
  },
  setEntryContract: {
    method: 'PUT',
    path: '/time-entries/:entryId/contract',
    summary: 'Choose the contract of recorded time, or let it find its own',
    permission: 'contracts.choose',
    versioned: true,
    body: contractChoiceSchema,
    /** With the choice that takes it back. */
    answer: record({ id: id('time_entry'), version: count(), undo: contractChoiceSchema }),
  },
});
