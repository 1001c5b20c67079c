import { LAST_CALL_SECONDS } from '@core/scheduling';
import { plusSeconds } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { byJob } from '../../app/actor';
import { transact } from '../../app/work';
import { endOpenings, letGo } from './end-openings';

const JOB = byJob('dispatch');

/** Job: lets go what nobody took in time, set by set and opening by opening, and what a ticket needs no more. */
export async function releaseOpenings(app: App): Promise<void> {
  const now = app.clock.now();
  const over: string[] = await app
    .knex('opening_set as o')
    .join('ticket as t', 't.id', 'o.ticket_id')
    .where('o.state', 'open')
    .where((q) => void q.where('o.held_until', '<', at(now)).orWhereIn('t.status', ['resolved', 'closed']))
    .pluck('o.id');
  for (const setId of over) await transact(app, { now, actor: JOB }, (work) => endOpenings(work, app.house, { setId, end: 'lapsed' }));
  const tooNear = () =>
    app
      .knex('booking as b')
      .join('opening_set as o', 'o.id', 'b.opening_set_id')
      .where({ 'o.state': 'open', 'b.state': 'planned', 'b.tentative': true })
      .where('b.starts_at', '<', at(plusSeconds(now, LAST_CALL_SECONDS)));
  const near: { readonly id: string; readonly set_id: string }[] = await tooNear().select('b.id', 'o.id as set_id');
  for (const { id, set_id } of near)
    await transact(app, { now, actor: JOB }, async (work) => {
      const held: Row<'booking'>[] = await work
        .tx('booking')
        .where({ opening_set_id: set_id, state: 'planned', tentative: true })
        .forUpdate();
      if (held.length <= 1) return endOpenings(work, app.house, { setId: set_id, end: 'lapsed' });
      return {
        released: await letGo(work, app.house, { bookings: held.filter((b) => b.id === id), why: 'no opening was taken in time' }),
      };
    });
}
