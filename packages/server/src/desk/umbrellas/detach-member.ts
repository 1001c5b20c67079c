import { type Id, type Outcome, refuse } from '@core/ground';
import type { ClockFact, Status } from '@core/desk';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { addFacts, storeClocks } from '../clocks/ticket-clock-store';
import { takeMembersClient } from './members-client';
import { endMembership, type Before } from './membership';
import { surfaceOn } from '../tickets/surface-owed';

/** Takes a member from its umbrella: its own status is back, and its clocks run or hold as that says. */
export async function detachMember(
  work: Work,
  book: HouseBook,
  ticketId: Id<'ticket'>,
): Promise<Outcome<{ id: Id<'ticket'>; version: number }>> {
  const { tx, now } = work;
  const ticket = await tx('ticket').where({ id: ticketId }).forUpdate().first();
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (!ticket.umbrella_id) return refuse('not-possible-now', 'This ticket is under no umbrella.');
  const umbrella = (await tx('ticket').where({ id: ticket.umbrella_id }).first('number'))!;
  const before = (await endMembership(work, ticketId, 'detached'))!;
  const status = await statusNow(work, ticketId, before);
  const [changed] = await tx('ticket')
    .where({ id: ticketId })
    .update({
      status,
      hold_reason: status === 'on hold' ? before.holdReason : null,
      own_status_id: status === before.status ? (before.ownStatusId ?? null) : null,
      assignee_id: ticket.assignee_id ?? before.assigneeId,
      changed_at: at(now),
      version: tx.raw('version + 1'),
      // What is not sorted owes nothing; sorting it finds what the client wrote last.
      ...(ticket.kind === 'unsorted' ? { reply_owed_since: null, reply_owed_by: null } : {}),
    })
    .returning(['id', 'version']);
  const facts: ClockFact[] = [{ at: now, is: 'runs' }];
  if (status === 'on hold') facts.push({ at: now, is: 'held', reason: before.holdReason ?? 'client' });
  await addFacts(work, ticketId, facts);
  await storeClocks(work, book, { ticketId });
  await takeMembersClient(work, book, ticket.umbrella_id);
  await surfaceOn(work, ticket.umbrella_id);
  await work.tell('ticket.left-umbrella', ticketId, { umbrella: { ticketId: ticket.umbrella_id, number: umbrella.number }, status });
  await work.tell('ticket.member-left', ticket.umbrella_id, { member: { ticketId, number: ticket.number } });
  return changed!;
}

/** Booked only while a booking is left; its bookings may have moved to the umbrella. */
async function statusNow(work: Work, ticketId: Id<'ticket'>, before: Before): Promise<Status> {
  if (before.status !== 'booked') return before.status;
  const left = await work.tx('booking').where({ ticket_id: ticketId }).whereIn('state', ['planned', 'underway']).first('id');
  return left ? 'booked' : 'queued';
}
