import { standsInTheWay, type ClosingFacts, type Obstacle } from '@core/tickets';
import type { Instant } from '@core/time';
import type { Db } from '../app/database';
import type { HouseBook } from '../house/house-book';

/** What stands in the way of resolving a ticket, by the rules of its kind. */
export async function readObstacles(db: Db, book: HouseBook, ticketId: string, now: Instant): Promise<readonly Obstacle[]> {
  const facts = await readClosingFacts(db, ticketId, now);
  return facts ? standsInTheWay(book.house.closingRules, facts) : [];
}

async function readClosingFacts(db: Db, ticketId: string, now: Instant): Promise<ClosingFacts | undefined> {
  const t = await db('ticket as t')
    .leftJoin('asset as a', 'a.id', 't.asset_id')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .where('t.id', ticketId)
    .first('t.kind', 't.asset_id', 't.client_id', 't.resolution', 't.reply_owed_since', 'a.client_id as asset_client', 'k.placeholder');
  if (!t) return undefined;
  // One after another: inside a command they share one connection.
  const checklist = await db('checklist_item').where({ ticket_id: ticketId }).orderBy('position').select('id', 'text', 'answer');
  const bookings = await db('booking as b')
    .leftJoin('person as p', 'p.id', 'b.person_id')
    .where({ ticket_id: ticketId })
    .orderBy('b.starts_at')
    .select('b.id', 'b.state', 'b.ends_at', 'p.name');
  const timers = await db('timer as r')
    .join('person as p', 'p.id', 'r.person_id')
    .where({ ticket_id: ticketId })
    .whereNotNull('running_since')
    .select('r.id', 'p.name');
  const minutes = await db('time_entry').where({ ticket_id: ticketId }).whereNull('removed_at').sum('minutes as n').first();
  const charges = await db('charge').where({ ticket_id: ticketId, state: 'proposed' }).count('* as n').first();
  return {
    kind: t.kind,
    checklist: checklist.map((i) => ({ id: i.id, text: i.text, answered: i.answer !== null })),
    bookings: bookings.map((b) => ({ id: b.id, person: b.name, over: b.ends_at <= now, open: ['planned', 'underway'].includes(b.state) })),
    timers: timers.map((r) => ({ id: r.id, person: r.name })),
    minutes: Number(minutes?.['n'] ?? 0),
    assetId: t.asset_id,
    clientId: t.client_id,
    assetClientId: t.asset_client,
    contactIsPlaceholder: t.placeholder ?? false,
    resolution: t.resolution,
    replyOwed: t.reply_owed_since !== null,
    pendingCharges: Number(charges?.['n'] ?? 0),
  };
}
