import { FACTS_OF } from '@core/facts';
import { checkRule, isRefusal, type Outcome, type Rule } from '@core/ground';
import type { FieldRecord } from '@core/desk';
import type { Db } from '../../app/database';

/** What a condition is given, the kind of record it looks at, and the place in the form it stands at. */
export interface RuleGiven {
  readonly given: unknown;
  readonly on: FieldRecord;
  readonly place: string;
}

/** Checks a rule against the facts there are: those of its kind of record and that kind's own fields. */
export async function readRule(db: Db, { given, on, place }: RuleGiven): Promise<Outcome<Rule>> {
  const fields = await db('own_field').where({ on_record: on }).select('id');
  const rule = checkRule(given, new Set([...Object.keys(FACTS_OF[on]), ...fields.map((f) => `field.${f.id}`)]));
  return isRefusal(rule) ? { ...rule, fields: { [place]: rule.detail } } : rule;
}
