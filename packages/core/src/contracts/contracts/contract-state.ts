import type { LocalDate } from '../../ground';

export const CONTRACT_STATES = ['draft', 'agreed', 'running', 'ended'] as const;
export type ContractState = (typeof CONTRACT_STATES)[number];

/** What a contract's state follows from. Dates are half open. */
export interface ContractDates {
  readonly isAgreed: boolean;
  readonly from: LocalDate;
  readonly to: LocalDate | null;
}

/** How a contract stands on a day: never stored, so nothing has to set it when a day begins. */
export function stateOf({ isAgreed, from, to }: ContractDates, on: LocalDate): ContractState {
  if (!isAgreed) return 'draft';
  if (to !== null && to <= on) return 'ended';
  return from <= on ? 'running' : 'agreed';
}
