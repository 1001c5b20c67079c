import { problemOf } from '../../shell/problem';

/** Addresses as people type them, with commas, semicolons or spaces between. */
export function addressesOf(typed: string): string[] {
  return typed
    .split(/[,;\s]+/)
    .map((a) => a.trim())
    .filter(Boolean);
}

/** What was refused, at its field where it is about one. */
export function wordsOf(fault: unknown): string {
  const problem = problemOf(fault);
  const wrong = Object.entries(problem.fields ?? {}).find(([field]) => field.startsWith('cc'));
  return wrong ? `Copies: ${wrong[1]}` : problem.detail;
}
