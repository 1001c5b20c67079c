import type { Work } from '../../app/work';

/** Whether a decision stands on what an entry charges, so that it may not change. */
export async function isFrozen(work: Work, entryId: string): Promise<boolean> {
  return Boolean(
    await work
      .tx('charge')
      .where((q) => void q.where({ time_entry_id: entryId }).orWhere({ shared_from: entryId }))
      .whereIn('state', ['approved', 'waived'])
      .first('id'),
  );
}
