import { randomInt, randomUUID } from 'node:crypto';
import type { ClockFact } from '@core/desk';
import type { Explanation, Id, Instant } from '@core/ground';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { readOwner, type TicketOwner } from './ticket-owner';
import { clockRow, factRow, nextDue, replayAll } from '../clocks/ticket-clock-store';

export interface NewTicket {
  readonly subject: string;
  readonly clientId: Id<'client'> | null;
  readonly contactId: Id<'contact'> | null;
  readonly senderEmail: string | null;
  readonly senderName: string | null;
  readonly threadingWhy: Explanation | null;
  readonly linkedTicketId: Id<'ticket'> | null;
  /** A ticket opened by a call has its response met at its receipt. */
  readonly byCall: boolean;
  /** Where it came before it is written down: by a message that is split off. */
  readonly receivedAt?: Instant;
  /** Where it was read already. */
  readonly owner?: TicketOwner;
}

const LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789';

/** A secret of six letters and digits that people can tell apart. */
export function ticketSecret(): string {
  return Array.from({ length: 6 }, () => LETTERS[randomInt(LETTERS.length)]).join('');
}

/** A ticket of nobody's client that somebody of some divisions opens is theirs. */
function ownerFor({ actor }: Work, owner: TicketOwner): TicketOwner {
  return owner.clientId === null && actor.divisions ? { ...owner, division: actor.divisions[0]! } : owner;
}

/** Opens an unsorted ticket and starts its clocks: one statement, as mail comes in by the hundred. */
export async function openTicket(
  work: Work,
  book: HouseBook,
  ticket: NewTicket,
): Promise<{ id: Id<'ticket'>; number: number; secret: string }> {
  const { tx, now } = work;
  const received = ticket.receivedAt ?? now;
  const known = ticket.owner?.clientId === ticket.clientId ? ticket.owner : undefined;
  const owner = ownerFor(work, known ?? (await readOwner(tx, book, ticket.clientId)));
  const facts: ClockFact[] = [{ at: received, is: 'received' }];
  if (ticket.byCall) facts.push({ at: received, is: 'public-contact' });
  const readings = replayAll(book.promise(owner.promiseVersionId, owner.calendarId), facts, now);
  const secret = ticketSecret();
  const id = randomUUID();
  const { rows } = await tx.raw(
    `with opened as (
       insert into ticket (id, division_id, number, secret, subject, kind, status, client_id, contact_id, sender_email, sender_name,
         threading_why, linked_ticket_id, promise_version_id, received_at, changed_at, due_at)
       values (:id, :division, nextval('ticket_number'), :secret, :subject, 'unsorted', 'new', :clientId, :contactId, :senderEmail, :senderName,
         :why, :linked, :promiseVersionId, :received, :now, :due) returning number),
     known as (insert into ticket_fact (ticket_id, at, fact, detail, written_at)
       select :id, f.at, f.fact, f.detail, f.written_at from jsonb_populate_recordset(null::ticket_fact, :facts) f),
     clocks as (insert into ticket_clock select * from jsonb_populate_recordset(null::ticket_clock, :clocks))
     select number from opened`,
    {
      id,
      secret,
      ...owner,
      ...ticket,
      why: ticket.threadingWhy ? JSON.stringify(ticket.threadingWhy) : null,
      linked: ticket.linkedTicketId,
      received: at(received),
      now: at(now),
      due: nextDue(readings),
      facts: JSON.stringify(facts.map((fact) => factRow(id, fact, now))),
      clocks: JSON.stringify(readings.map((reading) => clockRow(id, reading))),
    } as never,
  );
  return { id, number: rows[0].number, secret };
}
