import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';

/** The run that is not done; there is one at most. */
export async function openRun(db: Db): Promise<Row<'billing_run'> | undefined> {
  return db('billing_run').whereNot({ state: 'done' }).first();
}
