import { type Id, type Refusal, refuse } from '@core/ground';
import { isEnded, type Kind } from '@core/desk';
import type { StandingBookings } from '../../app/work-rules';
import type { Work } from '../../app/work';
import type { WorkFacts } from '../../ground';
import type { HouseBook } from '../../house';
import { moveByFact } from './move-ticket';
import { refuseMember } from './refuse-member';

/** Why a ticket cannot be booked as it is, if there is anything. */
export async function refuseTicketBooking(work: Work, ticketId: Id<'ticket'>): Promise<Refusal | undefined> {
  const ticket = (await work.tx('ticket').where({ id: ticketId }).first('kind', 'status', 'number', 'umbrella_id'))!;
  const member = await refuseMember(work, ticket);
  if (member) return member;
  if (ticket.kind === 'unsorted') return refuse('not-possible-now', 'Sort this ticket in intake before booking it.');
  if (isEnded(ticket.status)) return refuse('not-possible-now', `Ticket ${ticket.number} is ${ticket.status}; reopen it to book it.`);
  return undefined;
}

/** A sure booking makes its ticket booked and, where nobody was, assigns the technician. */
export async function bookTicket(work: Work, ticketId: Id<'ticket'>, personId: Id<'person'> | null): Promise<void> {
  const ticket = (await work.tx('ticket').where({ id: ticketId }).first('assignee_id', 'status'))!;
  if (personId && !ticket.assignee_id)
    await work
      .tx('ticket')
      .where({ id: ticketId })
      .update({ assignee_id: personId, version: work.tx.raw('version + 1') });
  if (ticket.status === 'queued') await moveByFact(work, work.book, { ticketId, to: 'booked' });
}

/** A ticket is booked while a sure booking stands for it. */
export async function followTicketBookings(work: Work, ticketId: Id<'ticket'>, { stands, to }: StandingBookings): Promise<void> {
  const ticket = (await work.tx('ticket').where({ id: ticketId }).first('status'))!;
  if (!stands && ticket.status === 'booked') await moveByFact(work, work.book, { ticketId, to: 'queued' });
  if (to === 'planned' && stands && ticket.status === 'queued') await moveByFact(work, work.book, { ticketId, to: 'booked' });
}

/** A ticket that is worked on is underway. */
export async function beginTicket(work: Work, ticketId: Id<'ticket'>): Promise<void> {
  const ticket = (await work.tx('ticket').where({ id: ticketId }).first('status', 'kind'))!;
  if (ticket.kind !== 'unsorted' && !isEnded(ticket.status) && ticket.status !== 'underway')
    await moveByFact(work, work.book, { ticketId, to: 'underway' });
}

/** Kinds may leave only some activities to choose. */
export function barTicketActivity(book: HouseBook, { ticket_kind: kind }: WorkFacts, activityId: Id<'activity'>): Refusal | undefined {
  const allowed = book.activitiesOf(kind as Kind | 'unsorted');
  if (!allowed.length || allowed.includes(activityId)) return undefined;
  const names = allowed.map((id) => book.activity(id)?.name).join(', ');
  return refuse('invalid', `${book.activity(activityId)!.name} is not for tickets of the kind ${kind}; ${names} are.`, {
    activityId: `one of ${names}`,
  });
}
