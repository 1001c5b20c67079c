import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import type { Kind } from '@core/desk';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { followOwner } from '../clocks/take-promise';
import { ownKindOf } from '../kinds/kinds-routes';
import { storeClocks } from '../clocks/ticket-clock-store';

/**
 * Changes the kind of a sorted ticket. Its closing checks are the new kind's from then on, and what its time
 * charges is proposed anew; what was decided on stays as it was decided, and the story says so.
 */
export async function changeKind(
  work: Work,
  book: HouseBook,
  {
    ticketId,
    version,
    kind,
    ownKindId = null,
  }: {
    readonly ticketId: Id<'ticket'>;
    readonly version: number | undefined;
    readonly kind: Exclude<Kind, 'unsorted'>;
    readonly ownKindId?: Id<'own_kind'> | null;
  },
): Promise<Outcome<{ id: Id<'ticket'>; version: number }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('kind', 'number', 'client_id', 'promise_version_id', 'own_kind_id');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (ticket.kind === 'unsorted') return refuse('not-possible-now', 'Sort this ticket in intake first.');
  const own = await ownKindOf(work, ownKindId, kind);
  if (isRefusal(own)) return own;
  if (ticket.kind === kind && ticket.own_kind_id === ownKindId)
    return refuse('not-possible-now', `Ticket ${ticket.number} is ${kind} already.`);
  if (!book.kindRule(kind).offered)
    return refuse('invalid', `Tickets of the kind ${kind} are not offered any more.`, { kind: 'a kind that is offered' });
  const fee = kind === 'flat-fee job' ? undefined : await work.tx('ticket_fee').where({ ticket_id: ticketId }).first('fee_id');
  if (fee) return refuse('not-possible-now', 'It has a flat fee, and its time would be charged on top. Take the fee off first.');
  const changed = await changeRow(work, { table: 'ticket', id: ticketId, version, set: { kind, own_kind_id: ownKindId } });
  if (isRefusal(changed)) return changed;
  await followOwner(work, book, {
    ticketId,
    promiseVersionId: ticket.promise_version_id,
    from: { clientId: ticket.client_id, kind: ticket.kind },
    to: { clientId: ticket.client_id, kind },
  });
  await storeClocks(work, book, { ticketId });
  await work.tell('ticket.kind-changed', ticketId, {
    kind: [ticket.kind, kind],
    ownKind: own?.name ?? null,
  });
  return changed;
}
