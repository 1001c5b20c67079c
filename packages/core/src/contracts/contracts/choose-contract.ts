import { type Explanation, type LocalDate, step } from '../../ground';
import type { ContractDates } from './contract-state';

/** A contract of the client whose work it is. */
export interface ContractOffered extends ContractDates {
  readonly id: string;
  readonly number: number;
  readonly name: string;
  /** The one of several that is taken where nothing else decides. */
  readonly isPreferred: boolean;
}

export interface ChosenContract {
  /** Null is work by the hour. */
  readonly id: string | null;
  readonly why: Explanation;
}

/**
 * The contract of work on a day: the client's preferred one, else their only one.
 * Source: docs/calculations.md, Cover.
 */
export function chooseContract(offered: readonly ContractOffered[], on: LocalDate): ChosenContract {
  const valid = offered.filter((c) => c.isAgreed && c.from <= on && (c.to === null || on < c.to));
  const by = ({ id, number, name }: ContractOffered, rule: string) => ({ id, why: [step(rule, `${number} ${name}`)] });
  const preferred = valid.filter((c) => c.isPreferred).sort((a, b) => a.number - b.number);
  if (preferred[0]) return by(preferred[0], "the client's preferred contract");
  if (valid.length === 1) return by(valid[0]!, "the client's only contract");
  return {
    id: null,
    why: [step(valid.length ? 'several contracts and none is preferred: by the hour' : 'no contract on this day: by the hour')],
  };
}
