import type { App } from '../../app/app';
import { at } from '../../app/database';
import { byJob } from '../../app/actor';
import { transact } from '../../app/work';
import { managers, ring } from './ring';

const RINGER = byJob('Drumline');
const AT_ONCE = 100;

/** Job: where nobody took what they were rung for and the client still waits, the service managers are rung. */
export async function ringAgain(app: App): Promise<void> {
  const now = app.clock.now();
  const due = await app.knex('escalation').where('again_at', '<=', at(now)).limit(AT_ONCE).distinct('ticket_id').pluck('ticket_id');
  for (const ticketId of due)
    await transact(app, { now, actor: RINGER }, async (work) => {
      const ticket = (await work.tx('ticket').where({ id: ticketId }).forUpdate().first('reply_owed_since', 'kind', 'status'))!;
      const open = await work.tx('escalation').where({ ticket_id: ticketId }).where('again_at', '<=', at(now)).orderBy('at').first('why');
      await work.tx('escalation').where({ ticket_id: ticketId }).whereNotNull('again_at').update({ again_at: null });
      const waits = ticket.reply_owed_since !== null || (ticket.kind === 'unsorted' && ticket.status === 'new');
      if (open && waits) {
        const why = `nobody took it: ${open.why}`;
        await ring(work, app.house, { ticketId, why, people: await managers(work), round: 2 });
      }
      return {};
    });
}
