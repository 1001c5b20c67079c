import { type Id, refuse } from '@core/ground';
import { relationRoutes, type TicketWire } from '@core/desk';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, type Db } from '../../app/database';
import type { Work } from '../../app/work';

const pair = (a: string, b: string) => (a < b ? { one_id: a, other_id: b } : { one_id: b, other_id: a });
const MOST = 50;

export function bindRelations(app: App) {
  return bindRoutes(app, relationRoutes, {
    relateTicket: async ({ work, params, body }) => {
      const [own, other] = [
        await work.tx('ticket').where({ id: params.ticketId }).first('id', 'number'),
        await work.tx('ticket').where({ number: body.number }).first('id', 'subject'),
      ];
      if (!own) return refuse('not-found', 'There is no such ticket.');
      if (!other) return refuse('invalid', `There is no ticket #${body.number}.`, { number: 'the number of a ticket' });
      if (own.id === other.id) return refuse('invalid', 'A ticket is not related to itself.', { number: 'the number of another ticket' });
      await relate(work, own.id, other.id);
      await work.tell('ticket.related', own.id, { ticketId: other.id, number: body.number, asTalk: false });
      await work.tell('ticket.related', other.id, { ticketId: own.id, number: own.number, asTalk: false });
      return { id: other.id };
    },
    unrelateTicket: async ({ work, params }) => {
      const removed = await work.tx('ticket_relation').where(pair(params.ticketId, params.relatedId)).delete();
      if (removed) {
        await work.tell('ticket.unrelated', params.ticketId, { ticketId: params.relatedId });
        await work.emit('ticket', params.relatedId);
      }
      return { removed };
    },
  });
}

/** @returns whether they were not related yet */
export async function relate(work: Work, one: string, other: string): Promise<boolean> {
  const rows = await work
    .tx('ticket_relation')
    .insert({ ...pair(one, other), at: at(work.now), by_person: work.actor.personId })
    .onConflict()
    .ignore()
    .returning('one_id');
  return rows.length > 0;
}

/** The tickets that one has to do with: those it continues, those that continue it, and those somebody said so of. */
export async function readRelated(db: Db, ticketId: Id<'ticket'>): Promise<TicketWire['related']> {
  const rows = await db
    .with('r', (q) =>
      q
        .select(db.raw(`case when one_id = ? then other_id else one_id end as id, 'related' as how`, [ticketId]))
        .from('ticket_relation')
        .where({ one_id: ticketId })
        .orWhere({ other_id: ticketId })
        .union([
          db('ticket as t')
            .where('t.id', ticketId)
            .whereNotNull('linked_ticket_id')
            .select('linked_ticket_id as id', db.raw(`'before' as how`)),
          db('ticket as t').where('linked_ticket_id', ticketId).select('id', db.raw(`'after' as how`)),
        ]),
    )
    .select('t.id', 't.number', 't.subject', 't.status', 'r.how')
    .from('r')
    .join('ticket as t', 't.id', 'r.id')
    .orderBy('t.number', 'desc')
    .limit(MOST);
  return rows.map((t) => ({ id: t.id, number: t.number, subject: t.subject, status: t.status, how: t.how }));
}
