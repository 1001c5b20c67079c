import type { MessageEvents, TicketEvents } from '@core/desk';
import { type Id, type Outcome, parseInstant } from '@core/ground';
import type { Work } from '../../app/work';
import { countUpdate } from './count-update';
import { takeMembersClient } from './members-client';
import { resolveMembers } from './resolve-members';
import { returnMembers } from './return-members';

const isUmbrella = async (work: Work, ticketId: Id<'ticket'>): Promise<boolean> =>
  Boolean(await work.tx('ticket').where({ id: ticketId, is_umbrella: true }).first('id'));

/** An umbrella that was resolved resolves its members. */
export async function resolveMembersToo(
  work: Work,
  ticketId: Id<'ticket'>,
  { status: [, to] }: TicketEvents['ticket.moved'],
): Promise<Outcome<unknown>> {
  if (to === 'resolved' && (await isUmbrella(work, ticketId))) await resolveMembers(work, work.book, ticketId);
  return {};
}

/** The resolving of an umbrella was undone, and with it what that did to its members. */
export async function returnMembersToo(
  work: Work,
  ticketId: Id<'ticket'>,
  { status: [was], movedAt }: TicketEvents['ticket.move-undone'],
): Promise<Outcome<unknown>> {
  if (was === 'resolved' && (await isUmbrella(work, ticketId))) await returnMembers(work, ticketId, parseInstant(movedAt));
  return {};
}

/** A member that is another client's may leave its umbrella over one client or over several. */
export async function takeChangedClient(
  work: Work,
  ticketId: Id<'ticket'>,
  { changes }: TicketEvents['ticket.changed'],
): Promise<Outcome<unknown>> {
  if (!('client_id' in changes)) return {};
  const { umbrella_id } = (await work.tx('ticket').where({ id: ticketId }).first('umbrella_id'))!;
  if (umbrella_id) await takeMembersClient(work, work.book, umbrella_id);
  return {};
}

/** A message to a member that was an update of its umbrella. */
export async function countSentUpdate(
  work: Work,
  _: string,
  { updateId }: MessageEvents['ticket.message-sent'],
): Promise<Outcome<unknown>> {
  if (updateId !== null) await countUpdate(work, work.book, updateId);
  return {};
}
