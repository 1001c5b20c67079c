import { isRefusal, refuse, type Outcome } from '@core/outcome';
import type { Kind } from '@core/tickets';
import { changeRow } from '../app/change-row';
import type { Work } from '../app/work';
import { chargeEntry, isFrozen } from '../charges/charge-entry';
import type { HouseBook } from '../house/house-book';

/**
 * Changes the kind of a sorted ticket. Its closing checks are the new kind's from then on, and what its time
 * charges is proposed anew; what was decided on stays as it was decided, and the story says so.
 */
export async function changeKind(
  work: Work,
  book: HouseBook,
  ticketId: string,
  version: number | undefined,
  kind: Exclude<Kind, 'unsorted'>,
): Promise<Outcome<{ id: string; version: number }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('kind', 'number');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (ticket.kind === 'unsorted') return refuse('not-possible-now', 'Sort this ticket in intake first.');
  if (ticket.kind === kind) return refuse('not-possible-now', `Ticket ${ticket.number} is ${kind} already.`);
  const fee = kind === 'flat-fee job' ? undefined : await work.tx('ticket_fee').where({ ticket_id: ticketId }).first('fee_id');
  if (fee) return refuse('not-possible-now', 'It has a flat fee, and its time would be charged on top. Take the fee off first.');
  const changed = await changeRow(work, { table: 'ticket', id: ticketId, version, set: { kind } });
  if (isRefusal(changed)) return changed;
  const entries = await work.tx('time_entry').where({ ticket_id: ticketId }).whereNull('removed_at').orderBy('starts_at').select('id');
  let kept = 0;
  for (const entry of entries) {
    if (await isFrozen(work, entry.id)) kept++;
    else await chargeEntry(work, book, entry.id);
  }
  const rated = entries.length ? `; ${entries.length - kept} entries rated anew, ${kept} kept as decided` : '';
  await work.tell({
    subject: 'ticket',
    id: ticketId,
    what: `changed from ${ticket.kind} to ${kind}: its closing checks and billing hold now${rated}`,
    changes: { kind: [ticket.kind, kind] },
  });
  return changed;
}
