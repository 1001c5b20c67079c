import { CHECKED_MOVES, clockWire, priorityOf, type Status, STATUS_MOVES, type TicketWire } from '@core/desk';
import { formatInstant, type Id, type Instant, type Outcome, refuse } from '@core/ground';
import { wireAt, type Db, sumOf, countOf } from '../../app/database';
import { readStory } from '../../app/read-story';
import type { HouseBook } from '../../house';
import { likeTickets } from './like-tickets';
import { conditionFacts } from './condition-facts';
import { shownFields } from '../own-fields/record-fields';
import { readMessages } from './read-messages';
import { readFollowers } from '../followers/followers';
import { readRelated } from '../relations/relations-routes';
import { readObstacles } from './closing';
import { standingWaiver } from './reply-owed';
import { readClocks } from '../clocks/ticket-clock-store';
import { rowWire } from './ticket-list-read-model';

/** A ticket as its page shows it. */
export async function readTicket(
  db: Db,
  book: HouseBook,
  { ticketId, now, inside }: { readonly ticketId: Id<'ticket'>; readonly now: Instant; readonly inside: boolean },
): Promise<Outcome<TicketWire>> {
  const t = await db('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .leftJoin('site as s', 's.id', 'k.site_id')
    .leftJoin('asset as a', 'a.id', 't.asset_id')
    .leftJoin('desk as d', 'd.id', 't.desk_id')
    .leftJoin('person as p', 'p.id', 't.assignee_id')
    .leftJoin('ticket as l', 'l.id', 't.linked_ticket_id')
    .leftJoin('ticket as u', 'u.id', 't.umbrella_id')
    .leftJoin('own_status as os', 'os.id', 't.own_status_id')
    .leftJoin('own_kind as ok', 'ok.id', 't.own_kind_id')
    .leftJoin('ticket as mi', 'mi.id', 't.merged_into_id')
    .leftJoin('category as g', 'g.id', 't.category_id')
    .leftJoin('category as gp', 'gp.id', 'g.parent_id')
    .where('t.id', ticketId)
    .first(
      't.*',
      'c.name as client',
      'c.calendar_id',
      'c.zone',
      'k.name as contact',
      'k.email as contact_email',
      'k.title as contact_title',
      'k.mail_trouble',
      db.raw('exists (select from status_link s where s.ticket_id = t.id) as has_own_page'),
      'k.priority as contact_priority',
      's.name as site',
      'a.number as asset',
      'd.name as desk',
      'p.name as assignee',
      'l.number as linked_number',
      'l.subject as linked_subject',
      'u.number as umbrella_number',
      'os.name as own_status',
      'ok.name as own_kind',
      'mi.number as merged_number',
      'g.name as category',
      'gp.name as category_parent',
    );
  if (!t) return refuse('not-found', 'There is no such ticket.');
  const clocks = await readClocks(db, book, {
    tickets: [{ id: t.id, promiseVersionId: t.promise_version_id, clientCalendarId: t.calendar_id }],
    now,
  });
  const [talk, story, checklist, bookings, charges, minutes, similar, obstacles, waiver] = await Promise.all([
    readMessages(db, ticketId, { inside }),
    readStory(db, { subject: 'ticket', id: ticketId }),
    db('checklist_item as i')
      .leftJoin('person as p', 'p.id', 'i.owner_id')
      .where({ ticket_id: ticketId })
      .orderBy('position')
      .select('i.id', 'i.text', 'i.answer', 'i.owner_id', 'i.due_at', 'p.name as owner'),
    db('booking as b')
      .leftJoin('person as p', 'p.id', 'b.person_id')
      .where({ ticket_id: ticketId })
      .whereNot('state', 'cancelled')
      .orderBy('starts_at')
      .select('b.id', 'b.version', 'p.name as person', 'b.person_id', 'b.starts_at', 'b.ends_at', 'b.state'),
    db('charge as c')
      .joinRaw(
        `left join lateral (select i.id, i.number from billing_link l join invoice i on i.id = l.invoice_id where l.charge_id = c.id order by l.id desc limit 1) i on true`,
      )
      .where('c.ticket_id', ticketId)
      .whereNot('c.state', 'withdrawn')
      .orderBy('c.on_date')
      .select('c.id', 'c.description', 'c.standing', 'c.net_minor', 'c.currency', 'i.number', 'i.id as invoice_id'),
    sumOf(db('time_entry').where({ ticket_id: ticketId }).whereNull('removed_at'), 'minutes'),
    likeTickets(db, { ticketId, subject: t.subject, text: '', most: 3 }),
    t.kind === 'unsorted'
      ? []
      : readObstacles(db, book, { ticketId, now, moves: CHECKED_MOVES.filter((m) => STATUS_MOVES[t.status as Status].includes(m)) }),
    standingWaiver(db, ticketId),
  ]);
  return {
    ...rowWire(book, { ticket: t, clocks: clocks.get(t.id)!.map(clockWire), now }),
    impact: t.impact,
    urgency: t.urgency,
    priorityWhy:
      t.impact && t.urgency
        ? priorityOf({
            matrix: book.house.tickets.matrix,
            impact: t.impact,
            urgency: t.urgency,
            priorityContact: t.contact_priority ?? false,
          }).explanation
        : null,
    holdReason: t.hold_reason,
    ownStatusId: t.own_status_id,
    ownKindId: t.own_kind_id,
    outcome: t.outcome,
    deskId: t.desk_id,
    line: t.line,
    categoryId: t.category_id,
    category: t.category ? [t.category_parent, t.category].filter(Boolean).join(', ') : null,
    mergedInto: t.merged_number ? { id: t.merged_into_id, number: t.merged_number } : null,
    contactId: t.contact_id,
    contactEmail: t.contact_email ?? t.sender_email,
    contactTitle: t.contact_title,
    contactTrouble: t.mail_trouble ?? null,
    hasOwnPage: t.has_own_page,
    site: t.site,
    clientZone: t.zone,
    asset: t.asset,
    assetId: t.asset_id,
    linked: t.linked_number ? { id: t.linked_ticket_id, number: t.linked_number, subject: t.linked_subject } : null,
    threadingWhy: t.threading_why,
    minutes,
    copies: await readCopies(db, ticketId, [book.house.mailFrom, book.division(t.division_id).mailFrom, t.contact_email, t.sender_email]),
    ...talk,
    insideHidden: inside ? 0 : await countNotes(db, ticketId),
    story,
    checklist: checklist.map((i) => ({
      id: i.id,
      text: i.text,
      answer: i.answer,
      owner: i.owner,
      ownerId: i.owner_id,
      dueAt: wireAt(i.due_at),
    })),
    resolution: t.resolution,
    closesAt: wireAt(t.closes_at),
    followers: await readFollowers(db, ticketId),
    related: await readRelated(db, ticketId),
    fields: (await shownFields(db, book, { on: 'ticket', records: [conditionFacts(t, minutes)] }))[0]!,
    obstacles: obstacles.map((o) => ({ ...o })),
    waived: waiver ? { at: formatInstant(waiver.at), who: waiver.who, reason: waiver.reason, thanks: waiver.thanks } : null,
    bookings: bookings.map((b) => ({
      id: b.id,
      version: b.version,
      person: b.person,
      personId: b.person_id,
      startsAt: formatInstant(b.starts_at),
      endsAt: formatInstant(b.ends_at),
      state: b.state,
    })),
    charges: charges.map((c) => ({
      id: c.id,
      description: c.description,
      state: c.standing,
      minor: c.net_minor,
      currency: c.currency,
      invoice: c.number,
      invoiceId: c.invoice_id,
    })),
    similar: similar.map((l) => ({ id: l.id, number: l.number, subject: l.subject, client: l.client })),
  };
}

async function countNotes(db: Db, ticketId: Id<'ticket'>): Promise<number> {
  return countOf(db('message').where({ ticket_id: ticketId, direction: 'note' }));
}

/** Everybody else on the client's latest message, as a reply to all would have them. */
async function readCopies(db: Db, ticketId: Id<'ticket'>, but: readonly (string | null)[]): Promise<string[]> {
  const last = await db('message')
    .where({ ticket_id: ticketId, direction: 'in', visibility: 'public' })
    .whereNot('via', 'call')
    .orderBy([
      { column: 'at', order: 'desc' },
      { column: 'seq', order: 'desc' },
    ])
    .first('to_addresses', 'cc_addresses', 'author_email');
  const all: string[] = last ? [...last.to_addresses, ...last.cc_addresses] : [];
  const known = new Set([...but, last?.author_email].map((a) => a?.toLowerCase()));
  return [...new Set(all.map((a) => a.toLowerCase()))].filter((a) => !known.has(a)).slice(0, 20);
}
