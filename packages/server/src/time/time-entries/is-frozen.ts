import type { Id } from '@core/ground';
import type { Db } from '../../app/database';
import type { Work } from '../../app/work';

/** Whether an entry may not change: a decision stands on what it charges, or its period is closed. */
export async function isFrozen(work: Work, entryId: Id<'time_entry'>): Promise<boolean> {
  return (await frozenAmong(work.tx, [entryId])).has(entryId);
}

/** Those of some entries on which a decision stands, on what they charge or what was shared out of them, or that are closed. */
export async function frozenAmong(db: Db, entryIds: readonly Id<'time_entry'>[]): Promise<ReadonlySet<string>> {
  const decided = db('charge').whereIn('state', ['approved', 'waived']);
  const [own, shared, closed] = await Promise.all([
    decided.clone().whereIn('time_entry_id', entryIds).distinct().pluck('time_entry_id'),
    decided.clone().whereIn('shared_from', entryIds).distinct().pluck('shared_from'),
    db('closed_entry').whereIn('entry_id', entryIds).pluck('entry_id'),
  ]);
  return new Set([...own, ...shared, ...closed].filter((id) => id !== null));
}
