import { tabPass } from '@core/billing';
import { formatMoney, type Id, money } from '@core/ground';
import { byJob } from '../../app/actor';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { transact, type Work } from '../../app/work';
import { tellPerson } from '../../house';
import { readOpenTabs } from './read-open-tabs';

/** Asks for a look at the tabs of clients with a level; once for however many changes are made at once. */
export async function askToWatchTabs(work: Work, clientIds: readonly string[]): Promise<void> {
  const watched: string[] = await work.tx('tab_level').whereIn('client_id', clientIds).pluck('client_id');
  for (const clientId of watched) await work.enqueue('watch-tab', { clientId }, { key: `watch-tab:${clientId}` });
}

/** Job: tells of a client's tab that has reached its level; once until it was below it again. */
export async function watchTab(app: App, { clientId }: { readonly clientId: Id<'client'> }): Promise<void> {
  await transact(app, { now: app.clock.now(), actor: byJob('open tab') }, async (work) => {
    const level: Row<'tab_level'> | undefined = await work.tx('tab_level').where({ client_id: clientId }).forUpdate().first();
    if (!level) return {};
    const { currency } = work.book.house;
    const { sum } = await readOpenTabs(work.tx, { currency, clientId });
    const asked = { sum, level: money(level.level_minor, currency), wasTold: level.told_at !== null };
    const pass = tabPass(asked);
    if (pass === 'nothing') return {};
    await work
      .tx('tab_level')
      .where({ client_id: clientId })
      .update({ told_at: pass === 'tell' ? at(work.now) : null });
    if (pass === 'tell') {
      await work.tell('client.tab-level-reached', clientId, { sum, level: asked.level });
      const client = (await work.tx('client').where({ id: clientId }).first('name'))!;
      const text = `The open tab of ${client.name} has reached ${formatMoney(asked.level)}: it is ${formatMoney(sum)} before tax`;
      await tellPerson(work, { personId: level.person_id, text, ticketId: null });
    }
    return {};
  });
}
