import { sayDueSoon } from '@core/desk';
import { formatSeconds, type Id } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import { byJob } from '../../app/actor';
import { transact, type Work } from '../../app/work';
import { tellPerson } from '../../house';
import { moveByFact } from './move-ticket';
import { storeClocks } from '../clocks/ticket-clock-store';

const SWEEPER = byJob('Drumline');
const AT_ONCE = 200;

/**
 * Job: what falls due by time alone. Resolved tickets close, and clocks warn before they are missed. Both are
 * index range scans over stored instants; each ticket is done in a transaction of its own, once.
 */
export async function sweepTickets(app: App): Promise<void> {
  const now = app.clock.now();
  const closing = await app.knex('ticket').where({ status: 'resolved' }).where('closes_at', '<=', at(now)).limit(AT_ONCE).pluck('id');
  for (const ticketId of closing)
    await transact(app, { now, actor: SWEEPER }, async (work) => {
      const ticket = (await work.tx('ticket').where({ id: ticketId }).forUpdate().first('status', 'closes_at'))!;
      if (ticket.status === 'resolved' && ticket.closes_at !== null && ticket.closes_at <= now)
        await moveByFact(work, app.house, { ticketId, to: 'closed' });
      return {};
    });
  const warning = await app.knex('ticket_clock').where('warn_at', '<=', at(now)).limit(AT_ONCE).select('ticket_id', 'clock');
  for (const { ticket_id, clock } of warning)
    await transact(app, { now, actor: SWEEPER }, (work) => warn(app, work, { ticketId: ticket_id, clock }));
}

async function warn(
  app: App,
  work: Work,
  { ticketId, clock }: { readonly ticketId: Id<'ticket'>; readonly clock: string },
): Promise<Record<string, never>> {
  const row = (await work.tx('ticket_clock').where({ ticket_id: ticketId, clock }).forUpdate().first())!;
  if (row.warn_at === null || row.warn_at > work.now) return {};
  const [fresh] = await work
    .tx('clock_warning')
    .insert({ ticket_id: ticketId, clock, run: row.runs_met + row.runs_missed, percent: row.warn_percent, at: at(work.now) })
    .onConflict(['ticket_id', 'clock', 'run', 'percent'])
    .ignore()
    .returning('ticket_id');
  await storeClocks(work, app.house, { ticketId, touch: false });
  if (!fresh || row.due_at === null || row.due_at <= work.now) return {};
  const ticket = (await work.tx('ticket').where({ id: ticketId }).first('number', 'subject', 'assignee_id'))!;
  const due = { clock, left: formatSeconds(row.due_at - work.now), percent: row.warn_percent! };
  const words = sayDueSoon(due);
  await work.tell('ticket.due-soon', ticketId, due);
  const people = ticket.assignee_id
    ? [ticket.assignee_id]
    : await work.tx('person').where({ role: 'service manager', active: true }).pluck('id');
  for (const personId of people) await tellPerson(work, { personId, text: `#${ticket.number} ${ticket.subject}: ${words}`, ticketId });
  return {};
}
