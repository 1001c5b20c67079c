import type { TalkEvents } from '@core/desk';
import { type Id, type Instant, isRefusal } from '@core/ground';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { latestMove, takeMoveBack } from '../tickets/take-move-back';
import { takeMembersClient } from './members-client';
import { surfaceOn } from '../tickets/surface-owed';

/**
 * The resolving of an umbrella is undone: every member that it took along is its member again, as it was. One that has moved
 * on since, as by an answer of its client, stays where it is.
 * @param when the instant of the move that is undone
 */
export async function returnMembers(work: Work, umbrellaId: Id<'ticket'>, when: Instant): Promise<void> {
  const ended = await work
    .tx('membership')
    .where({ umbrella_id: umbrellaId, ended_by: 'resolved' })
    .where('ended_at', at(when))
    .select('id', 'ticket_id');
  for (const membership of ended) await returnMember(work, { umbrellaId, when, membership });
  await takeMembersClient(work, work.book, umbrellaId);
  await surfaceOn(work, umbrellaId);
}

interface Returning {
  readonly umbrellaId: Id<'ticket'>;
  readonly when: Instant;
  readonly membership: { readonly id: Id<'membership'>; readonly ticket_id: string };
}

async function returnMember(work: Work, { umbrellaId, when, membership }: Returning): Promise<void> {
  const ticketId = membership.ticket_id;
  const ticket = (await work.tx('ticket').where({ id: ticketId }).forUpdate().first('status', 'version', 'umbrella_id', 'merged_into_id'))!;
  const move = await latestMove(work, ticketId);
  const isAsItWas = ticket.status === 'resolved' && !ticket.umbrella_id && !ticket.merged_into_id && move?.happenedAt === when;
  if (!isAsItWas) return;
  const told = (await work
    .tx('event')
    .where({ ticket_id: ticketId, type: 'ticket.resolved-with-umbrella' })
    .orderBy('id', 'desc')
    .first('data'))!;
  const { umbrella, before } = told.data as TalkEvents['ticket.resolved-with-umbrella'];
  const { deskId, ...same } = before;
  await work
    .tx('ticket')
    .where({ id: ticketId })
    .update({ ...same, desk_id: deskId, umbrella_id: umbrellaId });
  await work.tx('membership').where({ id: membership.id }).update({ ended_at: null, ended_by: null });
  const back = await takeMoveBack(work, { ticketId, version: ticket.version, last: move });
  if (isRefusal(back)) throw new Error(`member ${ticketId} changed while it was locked`);
  await work.tell('ticket.back-under-umbrella', ticketId, { umbrella });
}
