import { memberStandsInTheWay, standsInTheWay, type CheckedMove, type ClosingFacts, type Obstacle } from '@core/desk';
import { formatMoney, type Id, type Instant, money } from '@core/ground';
import { type Db, sumOf } from '../../app/database';
import type { HouseBook } from '../../house';
import { readTicketFee } from './read-ticket-fee';
import { conditionFacts } from './condition-facts';

export type ObstacleOf = Obstacle & { readonly move: CheckedMove };

/** What stands in the way of each of these moves, by the rules of the ticket's kind. */
export async function readObstacles(
  db: Db,
  book: HouseBook,
  { ticketId, now, moves }: { readonly ticketId: Id<'ticket'>; readonly now: Instant; readonly moves: readonly CheckedMove[] },
): Promise<readonly ObstacleOf[]> {
  const facts = moves.length ? await readClosingFacts(db, ticketId, now) : undefined;
  if (!facts) return [];
  const all = moves.flatMap((move) => standsInTheWay(book.house.tickets.closing, facts, move).map((o) => ({ move, ...o })));
  if (!facts.isUmbrella) return all;
  // What is owed on an umbrella is owed on its members, where it is named.
  const own = all.filter((o) => o.check !== 'unanswered message');
  if (!moves.includes('resolved')) return own;
  return [...own, ...(await memberObstacles(db, book, { umbrellaId: ticketId, now })).map((o) => ({ move: 'resolved' as const, ...o }))];
}

async function memberObstacles(
  db: Db,
  book: HouseBook,
  { umbrellaId, now }: { readonly umbrellaId: Id<'ticket'>; readonly now: Instant },
): Promise<Obstacle[]> {
  const members = await db('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .where({ umbrella_id: umbrellaId })
    .orderBy('t.number')
    .select('t.id', 't.number', 'c.name');
  const found: Obstacle[] = [];
  for (const member of members) {
    const facts = await readClosingFacts(db, member.id, now);
    for (const o of facts ? memberStandsInTheWay(book.house.tickets.alwaysAsked, facts) : [])
      found.push({ check: o.check, what: `#${member.number} of ${member.name ?? 'an unknown sender'}: ${o.what}`, id: o.id ?? member.id });
  }
  return found;
}

async function readClosingFacts(
  db: Db,
  ticketId: Id<'ticket'>,
  now: Instant,
): Promise<(ClosingFacts & { readonly isUmbrella: boolean }) | undefined> {
  const t = await db('ticket as t')
    .leftJoin('asset as a', 'a.id', 't.asset_id')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .where('t.id', ticketId)
    .first('t.*', 'a.client_id as asset_client', 'k.placeholder');
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
  const minutes = await sumOf(db('time_entry').where({ ticket_id: ticketId }).whereNull('removed_at'), 'minutes');
  const charges = await db('charge')
    .where({ ticket_id: ticketId, state: 'proposed' })
    .orderBy(['on_date', 'id'])
    .select('id', 'description', 'net_minor', 'currency');
  const { fee, hint } = await readTicketFee(db, ticketId);
  return {
    kind: t.kind,
    isUmbrella: t.is_umbrella,
    checklist: checklist.map((i) => ({ id: i.id, text: i.text, answered: i.answer !== null })),
    bookings: bookings.map((b) => ({ id: b.id, person: b.name, over: b.ends_at <= now, open: ['planned', 'underway'].includes(b.state) })),
    timers: timers.map((r) => ({ id: r.id, person: r.name })),
    minutes,
    assetId: t.asset_id,
    clientId: t.client_id,
    assetClientId: t.asset_client,
    contactIsPlaceholder: t.placeholder ?? false,
    resolution: t.resolution,
    replyOwed: t.reply_owed_since !== null,
    pendingCharges: charges.map((c) => ({ id: c.id, words: `${c.description}, ${formatMoney(money(c.net_minor, c.currency))}` })),
    feeHint: hint ? { id: hint.feeId, words: `${hint.name}, by ${hint.why}` } : null,
    condition: conditionFacts(t, minutes),
    fee: fee ? { agreed: fee.state === 'agreed', result: fee.result !== null } : null,
  };
}
