import type { BeforeMove, TicketEvents } from '@core/desk';
import { formatInstant, type Id, type Instant, isRefusal, type Outcome, parseInstant } from '@core/ground';
import { changeRow } from '../../app/change-row';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { storeClocks, takeBackFacts } from '../clocks/ticket-clock-store';

type Moved = TicketEvents['ticket.moved'];

/** The latest move of a ticket that was not taken back. */
export interface LatestMove {
  readonly whoId: string | null;
  readonly whoName: string | null;
  readonly happenedAt: Instant;
  readonly moved: Moved;
}

export async function latestMove(work: Work, ticketId: Id<'ticket'>): Promise<LatestMove | undefined> {
  const last = await work
    .tx('event')
    .where({ ticket_id: ticketId, subject: 'ticket' })
    .whereIn('type', ['ticket.moved', 'ticket.move-undone'])
    .orderBy('id', 'desc')
    .first('type', 'who_id', 'who_name', 'happened_at', 'data');
  if (last?.type !== 'ticket.moved') return undefined;
  return { whoId: last.who_id, whoName: last.who_name, happenedAt: last.happened_at, moved: last.data as Moved };
}

/** Status, its reason and name, when it was resolved or closes, and the clocks stand as they did before a move. */
export async function takeMoveBack(
  work: Work,
  { ticketId, version, last }: { readonly ticketId: Id<'ticket'>; readonly version: number; readonly last: LatestMove },
): Promise<Outcome<{ id: Id<'ticket'>; version: number }>> {
  const { moved: move, happenedAt } = last;
  const [was, is] = move.status;
  const changed = await changeRow(work, { table: 'ticket', id: ticketId, version, set: { status: was, ...columnsOf(move.before) } });
  if (isRefusal(changed)) return changed;
  await takeBackFacts(work, ticketId, move.before.factIds);
  await storeClocks(work, work.book, { ticketId });
  await work.tell('ticket.move-undone', ticketId, { status: [is, was], movedAt: formatInstant(happenedAt) });
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
