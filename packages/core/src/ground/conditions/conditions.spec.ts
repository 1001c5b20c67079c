import fc from 'fast-check';
import { isRefusal } from '../outcome';
import {
  checkRule,
  COMPARISON_NAMES,
  COMPARISONS,
  conditionOf,
  ruleHolds,
  ruleOf,
  sayRule,
  takesValue,
  type Condition,
  type FactValue,
  type Rule,
  type Test,
} from '.';

const facts = (ticket: Record<string, FactValue>, field: Record<string, FactValue> = {}) => ({ ticket, field });
const LABELS: Record<string, string> = {
  'ticket.kind': 'kind',
  'ticket.subject': 'subject',
  'ticket.minutes': 'minutes logged',
  'ticket.resolution': 'what was done',
};
const KNOWN = new Set(Object.keys(LABELS));
const value = fc.oneof(fc.string(), fc.integer(), fc.boolean());
const test: fc.Arbitrary<Test> = fc
  .record({ fact: fc.constantFrom(...KNOWN), is: fc.constantFrom(...COMPARISON_NAMES), value })
  .map((t) => (takesValue(t.is) ? t : { ...t, value: null }));
const condition: fc.Arbitrary<Condition> = fc.record({
  join: fc.constantFrom('all' as const, 'any' as const),
  tests: fc.array(test, { minLength: 1, maxLength: 6 }),
});

/** What a person would say of a test, without JSON Logic. */
const PLAINLY: Record<Test['is'], (is: FactValue, asked: FactValue) => boolean> = {
  is: (a, b) => a === b,
  'is not': (a, b) => a !== b,
  contains: (a, b) => String(a ?? '').includes(String(b)) && a !== null,
  'is at least': (a, b) => a !== null && (a as number) >= (b as number),
  'is at most': (a, b) => a !== null && (a as number) <= (b as number),
  'is set': (a) => Boolean(a),
  'is empty': (a) => !a,
};

describe('conditions', () => {
  it('come back from their rule as they went in', () => {
    fc.assert(fc.property(condition, (c) => expect(conditionOf(ruleOf(c))).toEqual(c)));
    expect(conditionOf(ruleOf({ join: 'all', tests: [] }))).toEqual({ join: 'all', tests: [] });
  });

  it('give rules that may be kept', () => {
    fc.assert(fc.property(condition, (c) => expect(checkRule(ruleOf(c), KNOWN)).toEqual(ruleOf(c))));
  });

  it('hold as a person would say', () => {
    const words = fc.constantFrom('disk full', 'disk', 'full', 'x');
    for (const is of COMPARISON_NAMES) {
      const words_ = (COMPARISONS[is] as readonly string[]).includes('words');
      const some: fc.Arbitrary<string | number> = words_ ? words : fc.integer({ min: -5, max: 5 });
      fc.assert(
        fc.property(fc.option(some, { nil: null }), some, (has, asked) => {
          const rule = ruleOf({ join: 'all', tests: [{ fact: 'ticket.subject', is, value: takesValue(is) ? asked : null }] });
          expect([is, has, asked, ruleHolds(rule, facts({ subject: has }))]).toEqual([is, has, asked, PLAINLY[is](has, asked)]);
        }),
      );
    }
  });

  it('join all or any', () => {
    const tests: Test[] = [
      { fact: 'ticket.kind', is: 'is', value: 'alert' },
      { fact: 'ticket.minutes', is: 'is at least', value: 15 },
    ];
    const some = facts({ kind: 'alert', minutes: 5 });
    expect([ruleHolds(ruleOf({ join: 'all', tests }), some), ruleHolds(ruleOf({ join: 'any', tests }), some)]).toEqual([false, true]);
    expect([ruleHolds(true, some), ruleHolds(false, some)]).toEqual([true, false]);
  });

  it('are said in words', () => {
    const names = { fact: (p: string) => LABELS[p]!, value: (_: string, v: FactValue) => String(v) };
    const rule = ruleOf({
      join: 'any',
      tests: [
        { fact: 'ticket.kind', is: 'is', value: 'alert' },
        { fact: 'ticket.resolution', is: 'is empty', value: null },
      ],
    });
    expect([sayRule(rule, names), sayRule(true, names), sayRule(false, names)]).toEqual([
      'kind is alert or what was done is empty',
      'always',
      'never',
    ]);
    expect(sayRule({ '>': [1, 0] }, names)).toBe('{">":[1,0]}');
  });
});

describe('rules that are given', () => {
  it.each<[string, unknown, string]>([
    ['an unknown operator', { and: [{ '==': [1, 1] }, { run: ['x'] }] }, 'the rule.and[2] uses "run"'],
    ['an unknown fact', { '==': [{ var: 'ticket.password' }, 1] }, 'the rule.==[1] speaks of "ticket.password"'],
    ['two operators', { '==': [1, 1], '!=': [1, 1] }, 'the rule has several operators'],
    ['no operator', {}, 'the rule has no operator'],
    ['no rule', 'always', 'the rule is "always"'],
  ])('are refused for %s, naming the place', (_, rule, words) => {
    const read = checkRule(rule, KNOWN);
    expect(isRefusal(read) && read.detail).toContain(words);
  });

  it('are refused where they lie too deep, and never fall over', () => {
    const deep = Array.from({ length: 30 }).reduce<Rule>((inner) => ({ '!': [inner] }), true);
    const read = checkRule(deep, KNOWN);
    expect(isRefusal(read) && read.detail).toContain('deeper than 12 levels');
    fc.assert(
      fc.property(fc.jsonValue(), (given) => {
        const rule = checkRule(given, KNOWN);
        if (!isRefusal(rule)) expect(typeof ruleHolds(rule, facts({}))).toBe('boolean');
      }),
    );
  });
});
