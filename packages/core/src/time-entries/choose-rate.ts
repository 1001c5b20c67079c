import type { LocalDate } from '../time';
import { RATE_LEVELS, type RateRule, type TimeBand } from './rate-card';

export interface RateQuestion {
  readonly gradeId: string;
  readonly activityId: string;
  readonly band: TimeBand;
  readonly on: LocalDate;
}

/**
 * The rule that decides: level by level, contract, then client, then default; within a level the one that
 * names more of grade, activity and band; at equal number grade before activity before band; of equal rules
 * the later start, then the smaller id. Source: calculations.md 5.3 and 12, Entries.
 */
export function chooseRate(rules: readonly RateRule[], question: RateQuestion): RateRule | undefined {
  const fitting = rules.filter((rule) => fits(rule, question));
  for (const level of RATE_LEVELS) {
    const [first] = fitting.filter((rule) => rule.level === level).sort(bySpecificity);
    if (first) return first;
  }
  return undefined;
}

function fits(rule: RateRule, { gradeId, activityId, band, on }: RateQuestion): boolean {
  return (
    (rule.gradeId ?? gradeId) === gradeId &&
    (rule.activityId ?? activityId) === activityId &&
    (rule.band ?? band) === band &&
    rule.from <= on &&
    (rule.to === null || on < rule.to)
  );
}

function bySpecificity(a: RateRule, b: RateRule): number {
  return weight(b) - weight(a) || (a.from === b.from ? (a.id < b.id ? -1 : 1) : a.from > b.from ? -1 : 1);
}

function weight(rule: RateRule): number {
  const named = [rule.gradeId, rule.activityId, rule.band].map((part) => (part === null ? 0 : 1));
  return (named[0]! + named[1]! + named[2]!) * 8 + named[0]! * 4 + named[1]! * 2 + named[2]!;
}
