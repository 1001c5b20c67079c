import type { Id } from '@core/ground';
import type { App } from '../../app/app';
import { byJob } from '../../app/actor';
import { transact } from '../../app/work';
import { storeClocks } from './ticket-clock-store';

const APPLIER = byJob('Drumline');
const AT_ONCE = 100;
const FIRST = '00000000-0000-0000-0000-000000000000';

/**
 * Job: computes again what falls due on the open tickets that a calendar counts for. Time counted before the
 * change stays, since the calendar keeps what held before; so run twice it ends in the same.
 */
export async function applyCalendar(app: App, { calendarId }: { calendarId: Id<'calendar'> }): Promise<void> {
  await app.house.load(app.knex);
  const house = (await app.knex('provider').first('calendar_id'))!;
  for (let after = FIRST; ;) {
    const ids: string[] = await app
      .knex('ticket as t')
      .leftJoin('client as c', 'c.id', 't.client_id')
      .where('t.id', '>', after)
      .whereNotIn('t.status', ['resolved', 'closed'])
      // Every ticket counts on the provider's calendar, if only until it is routed.
      .modify((q) => house.calendar_id !== calendarId && void q.where('c.calendar_id', calendarId))
      .orderBy('t.id')
      .limit(AT_ONCE)
      .pluck('t.id');
    const last = ids.at(-1);
    if (!last) return;
    await transact(app, { now: app.clock.now(), actor: APPLIER }, async (work) => {
      for (const id of ids) {
        await storeClocks(work, app.house, { ticketId: id, touch: false });
        await work.emit('ticket', id);
      }
      return {};
    });
    after = last;
  }
}
