import { randomUUID } from 'node:crypto';
import { repeatDays, type BookForm } from '@core/scheduling';
import { dateOf, instantAt, type Interval, isRefusal, type Outcome, plusSeconds, type Refusal, refuse, wallMinuteOf } from '@core/ground';
import { isEnded } from '@core/desk';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house/house/house-book';
import { moveByFact } from '../../desk/tickets/move-ticket';
import { refuseMember } from '../../desk/tickets/refuse-member';
import { insertBooking, spanOf, technicianName, type Slot } from './booking-store';

type Done = Outcome<{ id: string; version: number }>;
/** A slot; others who come along, and how it repeats, where anything is said of that. */
export type AskedBooking = Slot & Partial<Pick<BookForm, 'withIds' | 'repeat' | 'times'>>;

/**
 * Books a ticket, for several technicians at once and again and again where that is asked; all of it or nothing. A
 * booking that is sure makes the ticket booked and, where nobody was, assigns the technician.
 * @returns the first booking
 */
export async function bookTicket(work: Work, book: HouseBook, ticketId: string, asked: AskedBooking): Promise<Done> {
  const refused = await refuseUnbookable(work, ticketId);
  if (refused) return refused;
  const people = [asked.personId, ...(asked.withIds ?? []).filter((id) => id !== asked.personId)];
  const names: string[] = [];
  for (const personId of people) {
    const name = await technicianName(work, personId);
    if (isRefusal(name)) return name;
    names.push(name);
  }
  const spans = spansOf(book, asked);
  const seriesId = spans.length > 1 ? randomUUID() : null;
  let first: { id: string; version: number } | undefined;
  for (const span of spans) {
    const crewId = people.length > 1 ? randomUUID() : null;
    for (const personId of people) {
      const row = await insertBooking(work, book, ticketId, { ...asked, personId }, span, {
        crewId,
        seriesId,
      });
      await work.tell('booking.made', row.id, {});
      first ??= row;
    }
  }
  if (!asked.tentative) await becomeBooked(work, book, ticketId, { personId: asked.personId, bookingId: first!.id });
  await work.tell('ticket.booked', ticketId, { people: names, tentative: asked.tentative === true, times: spans.length });
  return first!;
}

/** Why a ticket cannot be booked as it is, if there is anything. */
export async function refuseUnbookable(work: Work, ticketId: string): Promise<Refusal | undefined> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('kind', 'status', 'number', 'umbrella_id');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const member = await refuseMember(work, ticket);
  if (member) return member;
  if (ticket.kind === 'unsorted') return refuse('not-possible-now', 'Sort this ticket in intake before booking it.');
  if (isEnded(ticket.status)) return refuse('not-possible-now', `Ticket ${ticket.number} is ${ticket.status}; reopen it to book it.`);
  return undefined;
}

/** What a sure booking does to its ticket: it is booked and assigned. */
export async function becomeBooked(
  work: Work,
  book: HouseBook,
  ticketId: string,
  { personId, bookingId }: { readonly personId: string | null; readonly bookingId: string },
): Promise<void> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('assignee_id', 'status');
  if (personId && !ticket.assignee_id)
    await work
      .tx('ticket')
      .where({ id: ticketId })
      .update({ assignee_id: personId, version: work.tx.raw('version + 1') });
  if (ticket.status === 'queued') await moveByFact(work, book, ticketId, 'booked');
  await work.tell('booking.became-sure', bookingId, { ticketId });
}

/** The same local time on each of its dates, over changes of the clocks too. */
function spansOf(book: HouseBook, asked: AskedBooking): Interval[] {
  const first = spanOf(asked);
  const { zone } = book.house;
  const minute = wallMinuteOf(first.from, zone);
  return repeatDays(dateOf(first.from, zone), asked.repeat ?? 'no', asked.times ?? 1).map((day, n) => {
    const from = n === 0 ? first.from : instantAt(day, minute, zone);
    return { from, to: plusSeconds(from, asked.minutes * 60) };
  });
}
