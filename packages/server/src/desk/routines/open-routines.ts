import { type Id, type Instant, isRefusal, type Zone } from '@core/ground';
import { nextTurn } from '@core/desk';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { byJob } from '../../app/actor';
import { transact, type Work } from '../../app/work';
import { openByHand } from '../intake/open-by-hand';

const ROUTINE = byJob('Drumline');

/** When a routine as it is kept turns up next. */
export function turnAfter(row: Row<'routine', 'rule' | 'starts_on' | 'minute'>, zone: Zone, after: Instant): Instant | undefined {
  return nextTurn({ rule: row.rule, startsOn: row.starts_on, minute: row.minute }, zone, after);
}

/**
 * Job: opens the tickets of the routines that are due, each turn once. Turns that were slept through open one
 * ticket, not many: routine work that was missed is done once. What cannot be opened says why on the routine.
 */
export async function openRoutines(app: App): Promise<void> {
  const now = app.clock.now();
  const due: { id: Id<'routine'> }[] = await app
    .knex('routine')
    .whereNull('archived_at')
    .where('next_at', '<=', at(now))
    .orderBy('next_at')
    .select('id');
  for (const { id } of due) {
    const opened = await transact(app, { now, actor: ROUTINE }, (work) => openTurn(app, work, id));
    if (isRefusal(opened)) await transact(app, { now, actor: ROUTINE }, (work) => skipTurn(app, work, { id, trouble: opened.detail }));
  }
}

async function lock(work: Work, id: Id<'routine'>): Promise<Row<'routine'> | undefined> {
  return work.tx('routine').where({ id }).whereNull('archived_at').where('next_at', '<=', at(work.now)).forUpdate().skipLocked().first();
}

async function openTurn(app: App, work: Work, id: Id<'routine'>) {
  const row = await lock(work, id);
  if (!row) return {};
  const template = (await work.tx('ticket_template').where({ id: row.template_id }).first('subject', 'text'))!;
  const ticket = await openByHand(app, work, {
    clientId: row.client_id,
    contactId: row.contact_id,
    templateId: row.template_id,
    subject: template.subject,
    text: template.text,
    byCall: false,
    feeId: null,
    feeQuantity: 1,
  });
  if (isRefusal(ticket)) return ticket;
  await work.tx('ticket').where({ id: ticket.id }).update({ routine_id: id });
  await endTurn(app, work, { row, what: { ticket_id: ticket.id } });
  return {};
}

async function skipTurn(app: App, work: Work, { id, trouble }: { readonly id: Id<'routine'>; readonly trouble: string }) {
  const row = await lock(work, id);
  if (row) await endTurn(app, work, { row, what: { trouble } });
  return {};
}

async function endTurn(
  app: App,
  work: Work,
  { row, what }: { readonly row: Row<'routine'>; readonly what: { readonly ticket_id?: string; readonly trouble?: string } },
): Promise<void> {
  await work.tx('routine_turn').insert({ routine_id: row.id, at: at(row.next_at!), ...what });
  const next = turnAfter(row, app.house.house.zone, work.now);
  await work
    .tx('routine')
    .where({ id: row.id })
    .update({ next_at: next === undefined ? null : at(next) });
  await work.emit('house', row.id);
}
