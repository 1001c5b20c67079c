import type { Id } from '@core/ground';
import type { Knex } from 'knex';
import type { Db } from '../../app/database';
import type { Work } from '../../app/work';

/** Whether an entry may not change: a decision stands on what it charges, or its period is closed. */
export async function isFrozen(work: Work, entryId: Id<'time_entry'>): Promise<boolean> {
  return (await frozenAmong(work.tx, [entryId])).has(entryId);
}

/** Those of some entries on which a decision stands, on what they charge or what was shared out of them, or that are closed. */
export function frozenAmong(db: Db, entryIds: readonly Id<'time_entry'>[]): Promise<ReadonlySet<string>> {
  return frozenWhere(db, (column) => (q) => void q.whereIn(column, entryIds));
}

/** As frozenAmong, of all entries of contracts, however many they are. */
export function frozenOfContracts(db: Db, contractIds: readonly string[]): Promise<ReadonlySet<string>> {
  const entries = db('time_entry as e').whereIn('e.contract_id', contractIds);
  return frozenWhere(db, (column) => (q) => void q.whereExists(entries.clone().whereRaw(`e.id = ${column}`).select(db.raw('1'))));
}

type Narrow = (q: Knex.QueryBuilder) => void;

async function frozenWhere(db: Db, among: (column: string) => Narrow): Promise<ReadonlySet<string>> {
  const decided = (column: 'time_entry_id' | 'shared_from') =>
    db('charge as ch')
      .whereIn('ch.state', ['approved', 'waived'])
      .modify(among(`ch.${column}`) as never)
      .distinct()
      .pluck(`ch.${column}`) as unknown as Promise<(string | null)[]>;
  const closed = db('closed_entry as z')
    .modify(among('z.entry_id') as never)
    .pluck('z.entry_id') as unknown as Promise<string[]>;
  const found = await Promise.all([decided('time_entry_id'), decided('shared_from'), closed]);
  return new Set(found.flat().filter((id) => id !== null));
}
