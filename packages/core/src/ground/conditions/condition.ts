import type { FactShape, FactValue } from './condition-facts';
import { ALWAYS, type Rule } from './rule';

/** How a test compares, and for which shapes of facts. */
export const COMPARISONS = {
  is: ['words', 'number', 'yes/no', 'choice', 'date', 'desk', 'category', 'client', 'own kind'],
  'is not': ['words', 'number', 'choice', 'date', 'desk', 'category', 'client', 'own kind'],
  contains: ['words'],
  'is at least': ['number', 'date'],
  'is at most': ['number', 'date'],
  'is set': ['words', 'number', 'choice', 'date', 'desk', 'category', 'client', 'own kind'],
  'is empty': ['words', 'number', 'choice', 'date', 'desk', 'category', 'client', 'own kind'],
} as const satisfies Readonly<Record<string, readonly FactShape[]>>;
export type Comparison = keyof typeof COMPARISONS;
export const COMPARISON_NAMES = Object.keys(COMPARISONS) as Comparison[];

/** Whether a comparison looks at a value, or only at whether there is one. */
export const takesValue = (is: Comparison): boolean => is !== 'is set' && is !== 'is empty';

export interface Test {
  readonly fact: string;
  readonly is: Comparison;
  readonly value: FactValue;
}

/** What the builder shows: tests of which all, or any, must hold. No test at all always holds. */
export interface Condition {
  readonly join: 'all' | 'any';
  readonly tests: readonly Test[];
}

const known = (fact: string) => ({ var: fact });
const set = (fact: string) => ({ '!=': [known(fact), null] });

const WRITE: Readonly<Record<Comparison, (fact: string, value: FactValue) => Rule>> = {
  is: (f, v) => ({ '===': [known(f), v] }),
  'is not': (f, v) => ({ '!==': [known(f), v] }),
  contains: (f, v) => ({ in: [v, known(f)] }),
  // An empty fact is neither at least nor at most anything.
  'is at least': (f, v) => ({ and: [set(f), { '>=': [known(f), v] }] }),
  'is at most': (f, v) => ({ and: [set(f), { '<=': [known(f), v] }] }),
  'is set': (f) => ({ '!!': [known(f)] }),
  'is empty': (f) => ({ '!': [known(f)] }),
};

/** A condition of the builder as a rule in JSON Logic. */
export function ruleOf(condition: Condition): Rule {
  if (!condition.tests.length) return ALWAYS;
  return { [condition.join === 'all' ? 'and' : 'or']: condition.tests.map((t) => WRITE[t.is](t.fact, t.value)) };
}

/** The condition that gives this rule, or nothing where the builder cannot show it. The inverse of `ruleOf`. */
export function conditionOf(rule: Rule): Condition | undefined {
  if (rule === true) return { join: 'all', tests: [] };
  if (typeof rule !== 'object') return undefined;
  const join = 'and' in rule ? 'all' : 'or' in rule ? 'any' : undefined;
  const parts = join && rule[join === 'all' ? 'and' : 'or'];
  if (!join || !Array.isArray(parts)) return undefined;
  const tests = parts.map(testOf);
  return tests.every((t): t is Test => t !== undefined) ? { join, tests } : undefined;
}

/** Reads a test by writing each that it could be, and comparing. */
function testOf(part: unknown): Test | undefined {
  const fact = firstOf(part, 'var');
  if (fact === undefined || typeof part !== 'object') return undefined;
  const said = JSON.stringify(part);
  for (const is of COMPARISON_NAMES)
    for (const value of takesValue(is) ? plainValues(part) : [null])
      if (JSON.stringify(WRITE[is](fact, value)) === said) return { fact, is, value };
  return undefined;
}

function firstOf(node: unknown, key: string): string | undefined {
  if (node === null || typeof node !== 'object') return undefined;
  const own = (node as Record<string, unknown>)[key];
  if (typeof own === 'string') return own;
  for (const part of Object.values(node)) {
    const found = firstOf(part, key);
    if (found !== undefined) return found;
  }
  return undefined;
}

/** Every plain value that stands in a rule outside a `var`. */
function plainValues(node: unknown): FactValue[] {
  if (Array.isArray(node)) return node.flatMap(plainValues);
  if (node !== null && typeof node === 'object') return 'var' in node ? [] : Object.values(node).flatMap(plainValues);
  return [node as FactValue];
}
