import type { Work } from '../../app/work';
import type { HouseBook } from '../../house/house/house-book';
import { chargeEntry, isFrozen } from './charge-entry';

/**
 * The time of a ticket is another client's from now on, or nobody's: it is rated anew for them. What was decided
 * on already stays as it was decided.
 */
export async function moveTime(work: Work, book: HouseBook, ticketId: string, clientId: string | null): Promise<void> {
  const entries = await work.tx('time_entry').where({ ticket_id: ticketId }).whereNull('removed_at').orderBy('starts_at').select('id');
  const free: string[] = [];
  for (const { id } of entries) if (!(await isFrozen(work, id))) free.push(id);
  await work.tx('time_entry').whereIn('id', free).update({ client_id: clientId });
  for (const id of free) await chargeEntry(work, book, id);
}
