import type { TalkEvents, TicketEvents } from '@core/desk';
import type { Id, Outcome } from '@core/ground';
import type { Work } from '../../app/work';
import { frozenAmong } from '../../time';
import { chargeEntry } from './charge-entry';
import { moveCharges } from './move-charges';

/** A ticket that is another client's has its time and all that is proposed for it charged to them. */
export async function moveMoneyToClient(
  work: Work,
  ticketId: Id<'ticket'>,
  { clientId: [was, is] }: TicketEvents['ticket.moved-to-client'],
): Promise<Outcome<unknown>> {
  await moveTime(work, ticketId, is);
  if (is !== null) await moveCharges(work, ticketId, { was, is });
  return {};
}

/** Time on an umbrella is charged to the client of all its members, or to nobody. */
export async function moveTimeToMembersClient(
  work: Work,
  umbrellaId: Id<'ticket'>,
  { clientId }: TalkEvents['ticket.members-client-set'],
): Promise<Outcome<unknown>> {
  await moveTime(work, umbrellaId, clientId);
  return {};
}

/** What was decided on already stays as it was decided. */
async function moveTime(work: Work, ticketId: Id<'ticket'>, clientId: Id<'client'> | null): Promise<void> {
  const { free } = await timeOf(work, ticketId);
  // A contract that somebody chose was of the client it had.
  await work.tx('ticket_contract').where({ ticket_id: ticketId }).delete();
  await work.tx('time_entry').whereIn('id', free).update({ client_id: clientId, chosen_by_hand: false, chosen_contract_id: null });
  for (const id of free) await chargeEntry(work, work.book, id);
}

/** What the time of a ticket charges follows its kind. */
export async function rateTimeAnew(work: Work, ticketId: Id<'ticket'>): Promise<Outcome<unknown>> {
  const { free, kept } = await timeOf(work, ticketId);
  for (const id of free) await chargeEntry(work, work.book, id);
  if (free.length + kept) await work.tell('ticket.time-rated-anew', ticketId, { rated: free.length, kept });
  return {};
}

/** The desk, asset or contact of a ticket may lead its time to another contract, where its client has any that is meant for some work alone. */
export async function placeTimeAnew(work: Work, ticketId: Id<'ticket'>): Promise<Outcome<unknown>> {
  const meant = await work
    .tx('contract_reach as r')
    .join('contract as c', 'c.id', 'r.contract_id')
    .join('ticket as t', 't.client_id', 'c.client_id')
    .where('t.id', ticketId)
    .first('r.contract_id');
  if (!meant) return {};
  const { free } = await timeOf(work, ticketId);
  for (const id of free) await chargeEntry(work, work.book, id);
  return {};
}

async function timeOf(work: Work, ticketId: Id<'ticket'>): Promise<{ readonly free: readonly string[]; readonly kept: number }> {
  const ids: string[] = await work.tx('time_entry').where({ ticket_id: ticketId }).whereNull('removed_at').orderBy('starts_at').pluck('id');
  const frozen = await frozenAmong(work.tx, ids);
  return { free: ids.filter((id) => !frozen.has(id)), kept: frozen.size };
}
