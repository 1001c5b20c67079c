import { type Outcome, refuse } from '@core/ground';
import type { Work } from '../../app/work';
import { openRun } from './open-run';

/** What holds for all clients changed: the run that is open is worked out anew, from its first client on. */
export async function workOutAnew(work: Work): Promise<Outcome<unknown>> {
  const run = await openRun(work.tx);
  if (!run) return {};
  const begun = await work
    .tx('billing_run')
    .where({ id: run.id })
    .whereIn('state', ['ready', 'preparing'])
    .update({ state: 'preparing', after_client: null, looked_at: 0 });
  if (!begun)
    return refuse('not-possible-now', `Invoices of the run for ${run.on_date} are being issued right now: wait until that is over.`);
  await work.enqueue('prepare-run', { runId: run.id }, { key: `prepare-run:${run.id}` });
  await work.emit('run', run.id);
  return {};
}
