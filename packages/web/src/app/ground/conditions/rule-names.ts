import type { RuleNames } from '@core/ground';
import { KnownFacts, type KnownFact } from './known-facts';

/** How rules are put into words: facts and values by the names people know. */
export function ruleNames(known: readonly KnownFact[]): RuleNames {
  const fact = (path: string) => known.find((f) => f.path === path);
  return {
    fact: (path) => fact(path)?.label ?? 'a field that was put away',
    value: (path, value) => KnownFacts.words(fact(path), value),
  };
}
