import { isRefusal, refuse, type Outcome } from '@core/outcome';
import { isEnded } from '@core/tickets';
import { parseInstant, plusSeconds } from '@core/time';
import { at, type Columns } from '../app/database';
import { changeRow } from '../app/change-row';
import type { Work } from '../app/work';
import type { HouseBook } from '../house/house-book';
import { fitBookings } from './fit-bookings';
import { moveByFact } from '../tickets/move-ticket';
import { refuseMember } from '../tickets/refuse-member';

type Done = Outcome<{ id: string; version: number }>;

export interface Slot {
  readonly personId: string | null;
  readonly startsAt: string;
  readonly minutes: number;
}

/** Books a ticket; a future booking makes the ticket booked and, where nobody was, assigns the technician. */
export async function bookTicket(work: Work, book: HouseBook, ticketId: string, slot: Slot): Promise<Done> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('kind', 'status', 'assignee_id', 'number', 'umbrella_id');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const member = await refuseMember(work, ticket);
  if (member) return member;
  if (ticket.kind === 'unsorted') return refuse('not-possible-now', 'Sort this ticket in intake before booking it.');
  if (isEnded(ticket.status)) return refuse('not-possible-now', `Ticket ${ticket.number} is ${ticket.status}; reopen it to book it.`);
  const name = await technicianName(work, slot.personId);
  if (isRefusal(name)) return name;
  const { starts, ends } = spanOf(slot);
  const [row] = await work
    .tx('booking')
    .insert({
      ticket_id: ticketId,
      person_id: slot.personId,
      starts_at: starts,
      ends_at: ends,
      planned_starts_at: starts,
      planned_ends_at: ends,
    })
    .returning(['id', 'version']);
  if (slot.personId && !ticket.assignee_id)
    await work
      .tx('ticket')
      .where({ id: ticketId })
      .update({ assignee_id: slot.personId, version: work.tx.raw('version + 1') });
  if (ticket.status === 'queued') await moveByFact(work, book, ticketId, 'booked');
  await work.tell({ subject: 'booking', id: row.id, what: 'booked' });
  await work.tell({ subject: 'ticket', id: ticketId, what: `booked for ${name}` });
  return row;
}

export async function moveBooking(work: Work, bookingId: string, version: number, slot: Slot): Promise<Done> {
  const booking = await work.tx('booking').where({ id: bookingId }).first('ticket_id', 'state', 'person_id');
  if (!booking) return refuse('not-found', 'There is no such booking.');
  if (booking.state === 'done' || booking.state === 'cancelled') return refuse('not-possible-now', `This booking is ${booking.state}.`);
  const name = await technicianName(work, slot.personId);
  if (isRefusal(name)) return name;
  const { starts, ends } = spanOf(slot);
  const changed = await changeRow(work, {
    table: 'booking',
    id: bookingId,
    version,
    set: { person_id: slot.personId, starts_at: starts, ends_at: ends, planned_starts_at: starts, planned_ends_at: ends },
  });
  if (isRefusal(changed)) return changed;
  if (booking.person_id && booking.person_id !== slot.personId)
    await work
      .tx('booking_left')
      .insert({ booking_id: bookingId, person_id: booking.person_id, at: at(work.now), version: changed.version })
      .onConflict(['booking_id', 'person_id'])
      .merge();
  await work.tell({ subject: 'booking', id: bookingId, what: `moved to ${name}` });
  await work.tell({ subject: 'ticket', id: booking.ticket_id, what: `booking moved to ${name}` });
  return changed;
}

/** Ends a booking as done or cancelled, or brings a cancelled one back; the ticket's status follows. */
export async function setBookingState(
  work: Work,
  book: HouseBook,
  bookingId: string,
  version: number,
  to: 'planned' | 'done' | 'cancelled',
): Promise<Done> {
  const booking = await work
    .tx('booking')
    .where({ id: bookingId })
    .first('ticket_id', 'state', 'person_id', 'planned_starts_at', 'planned_ends_at');
  if (!booking) return refuse('not-found', 'There is no such booking.');
  if (booking.state === to) return refuse('not-possible-now', `This booking is ${to} already.`);
  if (work.actor.role === 'technician' && to !== 'cancelled' && booking.person_id !== work.actor.personId)
    return refuse('not-allowed', 'A technician marks their own bookings done, and takes that back.');
  if (work.actor.role === 'technician' && to === 'planned' && booking.state !== 'done')
    return refuse('not-allowed', 'A cancelled booking is brought back by dispatch.');
  const changed = await changeRow(work, {
    table: 'booking',
    id: bookingId,
    version,
    set: { state: to, ...(booking.state === 'done' ? asPlanned(booking) : {}) },
  });
  if (isRefusal(changed)) return changed;
  if (to === 'done') await fitBookings(work, book.house.zone, { ticketId: booking.ticket_id, personId: booking.person_id });
  const left = await work.tx('booking').where({ ticket_id: booking.ticket_id }).whereIn('state', ['planned', 'underway']).first('id');
  const ticket = await work.tx('ticket').where({ id: booking.ticket_id }).first('status');
  if (!left && ticket.status === 'booked') await moveByFact(work, book, booking.ticket_id, 'queued');
  if (to === 'planned' && ticket.status === 'queued') await moveByFact(work, book, booking.ticket_id, 'booked');
  const what = to === 'planned' ? (booking.state === 'done' ? 'booking not done after all' : 'booking brought back') : `booking ${to}`;
  await work.tell({ subject: 'booking', id: bookingId, what });
  await work.tell({ subject: 'ticket', id: booking.ticket_id, what });
  return work.tx('booking').where({ id: bookingId }).first('id', 'version');
}

/** Undoing "done" brings the plan back. */
function asPlanned(booking: Columns): Record<string, string> {
  return { starts_at: at(booking['planned_starts_at']), ends_at: at(booking['planned_ends_at']) };
}

async function technicianName(work: Work, personId: string | null): Promise<Outcome<string>> {
  if (!personId) return 'no technician yet';
  const person = await work.tx('person').where({ id: personId, technician: true, active: true }).first('name');
  return person
    ? (person.name as string)
    : refuse('invalid', 'There is no such technician.', { personId: 'choose one of the technicians' });
}

function spanOf(slot: Slot): { starts: string; ends: string } {
  const from = parseInstant(slot.startsAt);
  return { starts: at(from), ends: at(plusSeconds(from, slot.minutes * 60)) };
}
