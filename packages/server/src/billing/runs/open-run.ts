import type { Id } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';

/** The run that is not done; there is one at most. */
export async function openRun(db: Db): Promise<Row<'billing_run'> | undefined> {
  return db('billing_run').whereNot({ state: 'done' }).first();
}

/** Whether a run has looked at a client; while it is prepared, it does so in order of their ids. */
export function isLookedAt(run: Row<'billing_run'>, clientId: Id<'client'>): boolean {
  return run.state !== 'preparing' || (run.after_client !== null && clientId <= run.after_client);
}
