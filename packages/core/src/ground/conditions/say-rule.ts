import { conditionOf, takesValue } from './condition';
import type { FactValue } from './condition-facts';
import type { Rule } from './rule';

export interface RuleNames {
  readonly fact: (path: string) => string;
  readonly value: (path: string, value: FactValue) => string;
}

/** A rule in words: "kind is alert and priority is P1". What the builder cannot show is said as JSON. */
export function sayRule(rule: Rule, names: RuleNames): string {
  if (rule === true) return 'always';
  if (rule === false) return 'never';
  const condition = conditionOf(rule);
  if (!condition) return JSON.stringify(rule);
  return condition.tests
    .map((t) => [names.fact(t.fact), t.is, ...(takesValue(t.is) ? [names.value(t.fact, t.value)] : [])].join(' '))
    .join(condition.join === 'all' ? ' and ' : ' or ');
}

/** When a rule holds: "always", "never", "when kind is alert". */
export function sayWhen(rule: Rule, names: RuleNames): string {
  return typeof rule === 'boolean' ? sayRule(rule, names) : `when ${sayRule(rule, names)}`;
}
