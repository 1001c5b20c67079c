import { findTicketToken, type ThreadCandidate } from '@core/desk';
import type { Id } from '@core/ground';
import type { App } from '../../app/app';
import type { Work } from '../../app/work';
import { isClosedForGood } from '../tickets/reply-owed';
import type { TicketOwner } from '../tickets/ticket-owner';
import type { ReadMail } from './read-mail';

export interface Sender {
  readonly email: string;
  readonly name: string;
  readonly contactId: Id<'contact'> | null;
  readonly clientId: Id<'client'> | null;
  /** A contact who raises priorities. */
  readonly priority: boolean;
  /** Mail to them did not arrive lately. */
  readonly unreached: boolean;
  /** What a ticket of theirs would take. */
  readonly owner: TicketOwner;
}

export interface FoundThread {
  readonly byReference: readonly ThreadCandidate[];
  readonly byToken: ThreadCandidate | undefined;
  readonly openedBeside: ThreadCandidate | undefined;
}

const MOST_TICKETS = 20;
/** Somebody of the house did something on ticket `t`. */
const WORKED = `(t.status not in ('new', 'queued') or t.is_umbrella or t.umbrella_id is not null
  or exists (select from message m where m.ticket_id = t.id and (m.direction = 'out' or m.visibility <> 'public') and not m.automatic)
  or exists (select from time_entry e where e.ticket_id = t.id) or exists (select from timer r where r.ticket_id = t.id)
  or exists (select from booking b where b.ticket_id = t.id))`;

/** What a mail calls itself and all that it cites. */
export function talkIds(mail: ReadMail): string[] {
  return [...new Set([mail.messageId, ...mail.cites].filter((id): id is string => id !== null))];
}

/** The tickets that a mail may belong to, the nearest first, and whether its sender belongs to each. */
export async function findThread(
  app: App,
  work: Work,
  { mail, sender }: { readonly mail: ReadMail; readonly sender: Sender },
): Promise<FoundThread> {
  const ticketIds = mail.cites.length ? await talkOf(work, mail) : await answersOf(work, mail.messageId);
  const byReference = [];
  for (const ticketId of ticketIds) byReference.push(await candidate(app, work, { ticketId, sender }));
  const token = findTicketToken(mail.subject);
  const named = token && (await work.tx('ticket').where({ number: token.number, secret: token.secret }).first('id', 'merged_into_id'));
  const byToken = named ? await candidate(app, work, { ticketId: named.merged_into_id ?? named.id, sender }) : undefined;
  const beside = [...ticketIds, ...(byToken ? [byToken.ticketId] : [])];
  const opened = beside.length
    ? await work
        .tx('ticket')
        .whereIn('linked_ticket_id', beside)
        .andWhere({ sender_email: sender.email, merged_into_id: null })
        .orderBy('received_at', 'desc')
        .first('id')
    : undefined;
  return { byReference, byToken, openedBeside: opened ? await candidate(app, work, { ticketId: opened.id, sender }) : undefined };
}

/** Who cites nothing opens a talk; only an answer that came before it can be here. */
async function answersOf(work: Work, messageId: string | null): Promise<string[]> {
  if (!messageId) return [];
  const { rows } = await work.tx.raw(
    `select distinct coalesce(t.merged_into_id, t.id) as id from message m join ticket t on t.id = m.ticket_id
     where m.reference_ids @> array[?::text] order by 1 limit ?`,
    [messageId, MOST_TICKETS],
  );
  return rows.map((row: { id: Id<'ticket'> }) => row.id);
}

/** Of the messages it cites; then of those that cite it, as it may come late; then of those that cite the same absent one. */
async function talkOf(work: Work, mail: ReadMail): Promise<string[]> {
  const { rows } = await work.tx.raw(
    `with cited as (select c.id, c.n from unnest(?::text[]) with ordinality as c(id, n)),
     talk as (
       select m.ticket_id, 0 as way, min(c.n) as n from cited c join message m on m.message_id = c.id group by 1
       union all
       select m.ticket_id, 1, 0 from message m where ?::text is not null and m.reference_ids @> array[?::text]
       union all
       select m.ticket_id, 2, 0 from message m where m.reference_ids && ?::text[]
         and not exists (select from message o where o.message_id = any(m.reference_ids) and o.message_id = any(?::text[]))
     )
     select coalesce(t.merged_into_id, t.id) as id, min(way * 1000 + n) as far
     from talk join ticket t on t.id = talk.ticket_id group by 1 order by 2, 1 limit ?`,
    [mail.cites, mail.messageId, mail.messageId, mail.cites, mail.cites, MOST_TICKETS] as never,
  );
  return rows.map((row: { id: Id<'ticket'> }) => row.id);
}

async function candidate(
  app: App,
  work: Work,
  { ticketId, sender }: { readonly ticketId: Id<'ticket'>; readonly sender: Sender },
): Promise<ThreadCandidate> {
  const ticket = await work
    .tx('ticket as t')
    .where({ id: ticketId })
    .first('client_id', 'sender_email', 'status', 'closed_at', work.tx.raw(`${WORKED} as worked`));
  const took = await work
    .tx('message')
    .where({ ticket_id: ticketId })
    .whereRaw('(author_email = ? or ? = any(to_addresses || cc_addresses))', [sender.email, sender.email])
    .first('id');
  return {
    ticketId,
    worked: ticket.worked,
    closedForGood: isClosedForGood(app.house, ticket, work.now),
    senderBelongs:
      Boolean(took) || ticket.sender_email === sender.email || (sender.clientId !== null && sender.clientId === ticket.client_id),
  };
}
