import { randomInt } from 'node:crypto';
import type { ClockFact } from '@core/clocks';
import type { Explanation } from '@core/explanation';
import type { Instant } from '@core/time';
import { at } from '../app/database';
import type { Work } from '../app/work';
import { policyVersionOf } from '../clocks/take-policy';
import type { HouseBook } from '../house/house-book';
import { addFacts, storeClocks } from './ticket-clock-store';

export interface NewTicket {
  readonly subject: string;
  readonly clientId: string | null;
  readonly contactId: string | null;
  readonly senderEmail: string | null;
  readonly senderName: string | null;
  readonly threadingWhy: Explanation | null;
  readonly linkedTicketId: string | null;
  /** A ticket opened by a call has its response met at its receipt. */
  readonly byCall: boolean;
  /** Where it came before it is written down: by a message that is split off. */
  readonly receivedAt?: Instant;
}

const LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789';

/** A secret of six letters and digits that people can tell apart. */
export function ticketSecret(): string {
  return Array.from({ length: 6 }, () => LETTERS[randomInt(LETTERS.length)]).join('');
}

/** Opens an unsorted ticket and starts its clocks. */
export async function openTicket(work: Work, book: HouseBook, ticket: NewTicket): Promise<{ id: string; number: number; secret: string }> {
  const { tx, now } = work;
  const client = ticket.clientId ? await tx('client as c').where('c.id', ticket.clientId).first('c.division_id') : undefined;
  const division = client?.division_id ?? (await tx('division').orderBy('name').first('id')).id;
  const secret = ticketSecret();
  const received = ticket.receivedAt ?? now;
  const [row] = await tx('ticket')
    .insert({
      division_id: division,
      number: tx.raw(`nextval('ticket_number')`),
      secret,
      subject: ticket.subject,
      kind: 'unsorted',
      status: 'new',
      client_id: ticket.clientId,
      contact_id: ticket.contactId,
      sender_email: ticket.senderEmail,
      sender_name: ticket.senderName,
      threading_why: ticket.threadingWhy ? JSON.stringify(ticket.threadingWhy) : null,
      linked_ticket_id: ticket.linkedTicketId,
      policy_version_id: await policyVersionOf(tx, book, { clientId: ticket.clientId, kind: 'unsorted' }),
      received_at: at(received),
      changed_at: at(now),
    })
    .returning(['id', 'number']);
  const facts: ClockFact[] = [{ at: received, is: 'received' }];
  if (ticket.byCall) facts.push({ at: received, is: 'public-contact' });
  await addFacts(work, row.id, facts);
  await storeClocks(work, book, row.id);
  return { id: row.id, number: row.number, secret };
}
