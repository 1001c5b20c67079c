import { type Id, type Outcome, refuse } from '@core/ground';
import type { Work } from '../../app/work';
import { refuseMember } from './refuse-member';
import { latestMove, takeMoveBack } from './take-move-back';

/** Undoes the latest move of a ticket by whoever made it. */
export async function undoMove(
  work: Work,
  ticketId: Id<'ticket'>,
  version: number,
): Promise<Outcome<{ id: Id<'ticket'>; version: number }>> {
  const ticket = await work
    .tx('ticket')
    .where({ id: ticketId })
    .forUpdate()
    .first('status', 'number', 'umbrella_id', 'merged_into_id', 'is_umbrella');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const member = await refuseMember(work, ticket);
  if (member) return member;
  const last = await latestMove(work, ticketId);
  if (!last) return refuse('not-possible-now', `Ticket ${ticket.number} has no move to undo.`);
  if (last.whoId !== work.actor.personId)
    return refuse(
      'not-allowed',
      `Its latest move was by ${last.whoName}, and a move is undone by whoever made it. Change the status instead.`,
    );
  const [, is] = last.moved.status;
  if (ticket.status !== is || ticket.merged_into_id)
    return refuse('changed-meanwhile', `Ticket ${ticket.number} is ${ticket.status} by now, so that it was made ${is} cannot be undone.`);
  return takeMoveBack(work, { ticketId, version, last });
}
