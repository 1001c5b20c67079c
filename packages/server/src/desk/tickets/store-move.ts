import { type Id, type Instant, isRefusal, type Outcome } from '@core/ground';
import { type BeforeMove, closesAt, factsOfMove, type HoldReason, isEnded, type OwnStatus, type Status } from '@core/desk';
import { changeRow } from '../../app/change-row';
import { at, wireAt } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { addFacts, storeClocks } from '../clocks/ticket-clock-store';

export interface Move {
  readonly ticket: { readonly id: Id<'ticket'>; readonly status: Status };
  readonly version: number | undefined;
  readonly to: Status;
  readonly holdReason: HoldReason | null;
  /** The status under the house's own name; a move without one has none. */
  readonly own?: OwnStatus | undefined;
  /** When it happened, which may be before it is written. */
  readonly when: Instant;
}

/** Stores a move with what follows from it: when it closes, its facts, its clocks, its story. */
export async function storeMove(
  work: Work,
  book: HouseBook,
  { ticket, version, to, holdReason, own, when }: Move,
): Promise<Outcome<{ id: Id<'ticket'>; version: number }>> {
  const before = await standingBefore(work, ticket.id);
  const closes = to === 'resolved' ? closesAt(book.house.calendar, work.now, book.house.tickets.closeAfterDates) : undefined;
  const changed = await changeRow(work, {
    table: 'ticket',
    id: ticket.id,
    version,
    set: {
      status: to,
      hold_reason: holdReason,
      own_status_id: own?.id ?? null,
      closes_at: closes === undefined ? null : at(closes),
      ...(to === 'resolved' ? { resolved_at: at(work.now), outcome: 'solved' } : {}),
      ...(to === 'closed' ? { closed_at: at(work.now) } : {}),
      ...(!isEnded(to) ? { resolved_at: null, closed_at: null, outcome: null } : {}),
    },
  });
  if (isRefusal(changed)) return changed;
  const factIds = await addFacts(work, ticket.id, factsOfMove({ from: ticket.status, to, holdReason, at: when }));
  await storeClocks(work, book, { ticketId: ticket.id });
  await work.tell('ticket.moved', ticket.id, {
    status: [ticket.status, to],
    holdReason,
    ownStatusId: own?.id ?? null,
    ownStatus: own?.name ?? null,
    before: { ...before, factIds },
  });
  return changed;
}

async function standingBefore(work: Work, ticketId: Id<'ticket'>): Promise<Omit<BeforeMove, 'factIds'>> {
  const row = (await work
    .tx('ticket')
    .where({ id: ticketId })
    .first('hold_reason', 'own_status_id', 'resolved_at', 'closed_at', 'closes_at', 'outcome'))!;
  return {
    holdReason: row.hold_reason,
    ownStatusId: row.own_status_id,
    resolvedAt: wireAt(row.resolved_at),
    closedAt: wireAt(row.closed_at),
    closesAt: wireAt(row.closes_at),
    outcome: row.outcome,
  };
}
