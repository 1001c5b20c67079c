import jsonLogic from 'json-logic-js';
import { refuse, type Outcome } from '../outcome';
import type { ConditionFacts } from './condition-facts';

/** A rule in JSON Logic. `true` always holds, `false` never. */
export type Rule = boolean | { readonly [operator: string]: unknown };

export const ALWAYS: Rule = true;
export const NEVER: Rule = false;

/** The operators that a rule may use: those that only look at facts. */
export const OPERATORS = ['var', 'and', 'or', '!', '!!', '==', '===', '!=', '!==', '<', '<=', '>', '>=', 'in', '+', '-', 'if'] as const;
const DEEPEST = 12;

/** Whether a rule holds for these facts. */
export function ruleHolds(rule: Rule, facts: ConditionFacts): boolean {
  return typeof rule === 'boolean' ? rule : Boolean(jsonLogic.apply(rule as never, facts));
}

/**
 * Checks a rule before it is kept.
 * @param known the paths it may speak of, such as `ticket.kind`
 * @returns the rule, or a refusal that names the place in it, what stands there and what is allowed
 */
export function checkRule(given: unknown, known: ReadonlySet<string>): Outcome<Rule> {
  const trouble = typeof given === 'boolean' ? undefined : troubleIn({ node: given, known, place: 'the rule', depth: 0 });
  if (trouble) return refuse('invalid', trouble, { rule: trouble });
  return given as Rule;
}

function troubleIn({
  node,
  known,
  place,
  depth,
}: {
  readonly node: unknown;
  readonly known: ReadonlySet<string>;
  readonly place: string;
  readonly depth: number;
}): string | undefined {
  if (depth > DEEPEST) return `${place} lies deeper than ${DEEPEST} levels`;
  if (Array.isArray(node))
    return first(
      node.map((part, i) => [part, `${place}[${i + 1}]`] as const),
      known,
      depth,
    );
  if (node === null || typeof node !== 'object')
    return depth === 0 ? `${place} is ${say(node)}; a rule is an object such as {"==": [{"var": "ticket.kind"}, "alert"]}` : undefined;
  const [operator, ...more] = Object.keys(node);
  if (operator === undefined || more.length) return `${place} has ${more.length ? 'several operators' : 'no operator'}; it takes one`;
  if (!(OPERATORS as readonly string[]).includes(operator)) return `${place} uses "${operator}"; allowed are ${OPERATORS.join(', ')}`;
  const inside = (node as Record<string, unknown>)[operator];
  if (operator === 'var') {
    const path = Array.isArray(inside) ? inside[0] : inside;
    return typeof path === 'string' && known.has(path)
      ? undefined
      : `${place} speaks of ${say(path)}; known are ${[...known].slice(0, 30).join(', ')}`;
  }
  return troubleIn({ node: Array.isArray(inside) ? inside : [inside], known, place: `${place}.${operator}`, depth: depth + 1 });
}

function first(parts: readonly (readonly [unknown, string])[], known: ReadonlySet<string>, depth: number): string | undefined {
  for (const [part, place] of parts) {
    const trouble = troubleIn({ node: part, known, place, depth: depth + 1 });
    if (trouble) return trouble;
  }
  return undefined;
}

const say = (value: unknown): string => (value === undefined ? 'nothing' : JSON.stringify(value));
