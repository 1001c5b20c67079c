import type { RateBook, RateRule } from '@core/time';
import type { Id } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import type { HouseBook } from '../../house';
/** The rates that hold for time of a client, under a contract or under none; null is time for nobody. */
export type RateBooks = (clientId: Id<'client'> | null, contractId?: Id<'contract'> | null) => RateBook;

/** Reads the rates of the house and of some clients, all at once. */
export async function readRateBooks(db: Db, book: HouseBook, clientIds: readonly (string | null)[]): Promise<RateBooks> {
  const own = [...new Set(clientIds)].filter((id) => id !== null);
  const rows: Row<'rate_rule'>[] = await db('rate_rule').where({ level: 'default' }).orWhereIn('client_id', own);
  const rules = rows.map((row) => ({ clientId: row.client_id, contractId: row.contract_id, rule: ruleOf(row) }));
  const { calendar, currency, zone } = book.house;
  const { bands } = book.house.time;
  return (clientId, contractId = null) => ({
    calendar,
    currency,
    bands,
    zone,
    rules: rules
      .filter((r) => r.rule.level === 'default' || (r.clientId === clientId && (r.contractId === null || r.contractId === contractId)))
      .map((r) => r.rule),
  });
}

function ruleOf(
  row: Row<'rate_rule', 'id' | 'level' | 'grade_id' | 'activity_id' | 'band' | 'rate' | 'valid_from' | 'valid_to'>,
): RateRule {
  return {
    id: row.id,
    level: row.level,
    gradeId: row.grade_id,
    activityId: row.activity_id,
    band: row.band,
    rate: plainDecimal(row.rate),
    from: row.valid_from,
    to: row.valid_to,
  };
}
