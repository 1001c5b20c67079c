import type { Id } from '@core/ground';
import type { Work } from '../../app/work';

/** Whether a decision stands on what an expense charges, so that it may not change. */
export async function isExpenseFrozen(work: Work, expenseId: Id<'expense'>): Promise<boolean> {
  return Boolean(await work.tx('charge').where({ expense_id: expenseId }).whereIn('state', ['approved', 'waived']).first('id'));
}
