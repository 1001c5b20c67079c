import { type Instant, isRefusal, type Outcome } from '@core/ground';
import { closesAt, factsOfMove, type HoldReason, isEnded, type OwnStatus, type Status } from '@core/desk';
import { changeRow } from '../../app/change-row';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house/house/house-book';
import { addFacts, storeClocks } from './ticket-clock-store';

export interface Move {
  readonly ticket: { readonly id: string; readonly status: Status };
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
): Promise<Outcome<{ id: string; version: number }>> {
  const closes = to === 'resolved' ? closesAt(book.house.calendar, work.now, book.house.closeAfterDates) : undefined;
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
  await addFacts(work, ticket.id, factsOfMove(ticket.status, to, holdReason, when));
  await storeClocks(work, book, ticket.id);
  const reason = holdReason ? `, waiting for the ${holdReason}` : '';
  await work.tell({
    subject: 'ticket',
    id: ticket.id,
    what: own ? `${own.name} (${to}${reason})` : `${to}${reason}`,
    changes: { status: [ticket.status, to] },
  });
  return changed;
}
