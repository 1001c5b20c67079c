import { checkRule, isRefusal, type Outcome, type Rule } from '@core/ground';
import { TICKET_FACTS } from '@core/desk';
import type { Db } from '../../app/database';

/** Checks a rule against the facts there are: those of tickets and the fields of the house's own. */
export async function readRule(db: Db, given: unknown, place: string): Promise<Outcome<Rule>> {
  const fields = await db('own_field').select('id');
  const rule = checkRule(given, new Set([...Object.keys(TICKET_FACTS), ...fields.map((f) => `field.${f.id}`)]));
  return isRefusal(rule) ? { ...rule, fields: { [place]: rule.detail } } : rule;
}
