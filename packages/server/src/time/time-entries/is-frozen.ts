import type { Id } from '@core/ground';
import type { Db } from '../../app/database';
import type { Work } from '../../app/work';

/** Whether a decision stands on what an entry charges, so that it may not change. */
export async function isFrozen(work: Work, entryId: Id<'time_entry'>): Promise<boolean> {
  return (await frozenAmong(work.tx, [entryId])).has(entryId);
}

/** Those of some entries on which a decision stands: on what they charge, or on what was shared out of them. */
export async function frozenAmong(db: Db, entryIds: readonly Id<'time_entry'>[]): Promise<ReadonlySet<string>> {
  const decided = db('charge').whereIn('state', ['approved', 'waived']);
  const [own, shared] = await Promise.all([
    decided.clone().whereIn('time_entry_id', entryIds).distinct().pluck('time_entry_id'),
    decided.clone().whereIn('shared_from', entryIds).distinct().pluck('shared_from'),
  ]);
  return new Set([...own, ...shared].filter((id) => id !== null));
}
