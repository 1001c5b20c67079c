import type { Id, LocalDate, TimeBand } from '../../ground';
import { RATE_LEVELS, type RateRule } from './rate-card';

export interface RateQuestion {
  readonly gradeId: Id<'grade'>;
  readonly activityId: Id<'activity'>;
  readonly band: TimeBand;
  readonly on: LocalDate;
}

/**
 * The rule that decides: level by level, contract, then client, then default; within a level the one that
 * names more of grade, activity and band; at equal number grade before activity before band; of equal rules
 * the later start, then the smaller id. Source: docs/calculations.md, Rates.
 */
export function chooseRate(rules: readonly RateRule[], question: RateQuestion): RateRule | undefined {
  let best: RateRule | undefined;
  for (const rule of rules) if (fits(rule, question) && (best === undefined || comesBefore(rule, best))) best = rule;
  return best;
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

function comesBefore(a: RateRule, b: RateRule): boolean {
  if (a.level !== b.level) return RATE_LEVELS.indexOf(a.level) < RATE_LEVELS.indexOf(b.level);
  const more = weight(a) - weight(b);
  if (more !== 0) return more > 0;
  return a.from === b.from ? a.id < b.id : a.from > b.from;
}

/** How much a rule names: the number of its parts first, then grade before activity before band. */
function weight({ gradeId, activityId, band }: RateRule): number {
  return (gradeId === null ? 0 : 8 + 4) + (activityId === null ? 0 : 8 + 2) + (band === null ? 0 : 8 + 1);
}
