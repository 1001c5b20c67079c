/** Why a command was not carried out. Refusals are values; faults are thrown. */
export interface Refusal {
  readonly refused: RefusalReason;
  /** One sentence for the person who asked: what is wrong and what is allowed. */
  readonly detail: string;
  /** Messages by field path, where a field is to blame. */
  readonly fields?: Readonly<Record<string, string>>;
}

export type RefusalReason =
  'not-found' | 'not-allowed' | 'invalid' | 'changed-meanwhile' | 'not-possible-now' | 'already-used' | 'too-often';

export type Outcome<T> = T | Refusal;

export function refuse(refused: RefusalReason, detail: string, fields?: Readonly<Record<string, string>>): Refusal {
  return fields ? { refused, detail, fields } : { refused, detail };
}

export function isRefusal(outcome: unknown): outcome is Refusal {
  return typeof outcome === 'object' && outcome !== null && 'refused' in outcome;
}

/** For the end of a switch over a union: a case that was forgotten does not compile. */
export function assertNever(value: never): never {
  throw new Error(`unhandled case: ${JSON.stringify(value)}`);
}
