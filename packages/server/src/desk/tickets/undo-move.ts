import type { BeforeMove, TicketEvents } from '@core/desk';
import { isRefusal, type Outcome, parseInstant, refuse } from '@core/ground';
import { changeRow } from '../../app/change-row';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { refuseMember } from './refuse-member';
import { storeClocks, takeBackFacts } from './ticket-clock-store';

/**
 * Undoes the latest move of a ticket by whoever made it: status, its reason and name, when it was resolved or closes, and
 * the clocks stand as they did. What else the move led to, as members resolved with an umbrella, stays.
 */
export async function undoMove(work: Work, ticketId: string, version: number): Promise<Outcome<{ id: string; version: number }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).forUpdate().first('status', 'number', 'umbrella_id', 'merged_into_id');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const member = await refuseMember(work, ticket);
  if (member) return member;
  const last = await work
    .tx('event')
    .where({ ticket_id: ticketId, subject: 'ticket' })
    .whereIn('type', ['ticket.moved', 'ticket.move-undone'])
    .orderBy('id', 'desc')
    .first('type', 'who_id', 'who_name', 'data');
  if (last?.type !== 'ticket.moved') return refuse('not-possible-now', `Ticket ${ticket.number} has no move to undo.`);
  if (last.who_id !== work.actor.personId)
    return refuse(
      'not-allowed',
      `Its latest move was by ${last.who_name}, and a move is undone by whoever made it. Change the status instead.`,
    );
  const { status, before } = last.data as TicketEvents['ticket.moved'];
  const [was, is] = status;
  if (ticket.status !== is || ticket.merged_into_id)
    return refuse('changed-meanwhile', `Ticket ${ticket.number} is ${ticket.status} by now, so that it was made ${is} cannot be undone.`);
  const changed = await changeRow(work, { table: 'ticket', id: ticketId, version, set: { status: was, ...columnsOf(before) } });
  if (isRefusal(changed)) return changed;
  await takeBackFacts(work, ticketId, before.factIds);
  await storeClocks(work, work.book, { ticketId });
  await work.tell('ticket.move-undone', ticketId, { status: [is, was] });
  return changed;
}

function columnsOf(before: BeforeMove) {
  const instant = (text: string | null) => (text === null ? null : at(parseInstant(text)));
  return {
    hold_reason: before.holdReason,
    own_status_id: before.ownStatusId,
    resolved_at: instant(before.resolvedAt),
    closed_at: instant(before.closedAt),
    closes_at: instant(before.closesAt),
    outcome: before.outcome,
  };
}
