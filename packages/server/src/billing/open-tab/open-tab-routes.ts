import { openTabRoutes } from '@core/billing';
import { type Id, type Money, type Outcome, parseMoney, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Work } from '../../app/work';
import { readOpenTabs } from './read-open-tabs';
import { askToWatchTabs } from './watch-tabs';

export function bindOpenTab(app: App) {
  const { currency } = app.house.house;
  return bindRoutes(app, openTabRoutes, {
    listOpenTabs: async ({ db }) => ({ currency, ...(await readOpenTabs(db, { currency })) }),
    setTabLevel: async ({ work, params, body }) => {
      const level = body.level ? parseMoney(body.level, currency) : null;
      if (level === undefined) return refuse('invalid', `${body.level} is no amount.`, { level: 'an amount such as 2500.00' });
      return setLevel(work, params.clientId, level);
    },
  });
}

async function setLevel(work: Work, clientId: Id<'client'>, level: Money | null): Promise<Outcome<Record<string, never>>> {
  if (!(await work.tx('client').where({ id: clientId }).first('id'))) return refuse('not-found', 'There is no such client.');
  const { personId } = work.actor;
  if (personId === null) return refuse('not-allowed', 'A person sets whom it tells.');
  if (level === null) await work.tx('tab_level').where({ client_id: clientId }).delete();
  else
    await work
      .tx('tab_level')
      .insert({ client_id: clientId, level_minor: level.minor, person_id: personId, told_at: null })
      .onConflict('client_id')
      .merge();
  await work.tell('client.tab-level-set', clientId, { level });
  await askToWatchTabs(work, [clientId]);
  return {};
}
