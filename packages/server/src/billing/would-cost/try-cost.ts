import type { Id } from '@core/ground';
import type { App } from '../../app/app';
import { byJob } from '../../app/actor';
import { makeWork } from '../../app/work';
import { type MonthCost, readPast, readTried } from './read-trial';
import type { TriedMonth } from '@core/billing';

const JOB = byJob('contracts tried');
/** So much more is done before it is told. */
const TELL_PERCENT = 10;

/** What is kept of a trial. */
export interface KeptTrial {
  readonly offers: readonly { readonly name: string; readonly months: readonly TriedMonth[] }[];
  readonly costs: readonly MonthCost[];
}

/** Job: tries contracts on a client's work in a worker thread, and tells how far it is. */
export async function tryCost(app: App, { trialId }: { trialId: Id<'cost_trial'> }): Promise<void> {
  const row = await app.knex('cost_trial').where({ id: trialId }).first();
  if (!row || row.state === 'ready') return;
  const put = (set: Record<string, unknown>) =>
    app.knex.transaction(async (tx) => {
      await tx('cost_trial').where({ id: trialId }).update(set);
      await makeWork({ tx, now: app.clock.now(), actor: JOB, book: app.house }).emit('trial', trialId);
    });
  await put({ state: 'running' });
  try {
    const span = { clientId: row.client_id, from: row.from_on, to: row.to_on };
    const contracts = await readTried(app.knex, app.house, { clientId: row.client_id, contractIds: row.contract_ids });
    const { work, costs } = await readPast(app.knex, app.house, span);
    let told = 0;
    let telling: Promise<unknown> = Promise.resolve();
    const months = await app.trials.make({ contracts, work, from: span.from, to: span.to }, ({ percent }) => {
      if (percent < told + TELL_PERCENT) return;
      told = percent;
      telling = telling
        .then(() => put({ percent }))
        .catch((fault: unknown) => app.log.debug({ fault }, 'a trial could not tell how far it is'));
    });
    await telling;
    const result: KeptTrial = { offers: contracts.map(({ name }, n) => ({ name, months: months[n]! })), costs };
    await put({ state: 'ready', percent: 100, result: JSON.stringify(result) });
  } catch (fault) {
    await put({ state: 'failed', trouble: 'It could not be worked out. Ask for it again.' });
    throw fault;
  }
}
