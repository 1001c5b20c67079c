import type { Id } from '@core/ground';
import { countOf } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { addFacts, storeClocks } from '../clocks/ticket-clock-store';

/** An update to members is public contact of their umbrella too, once, when its first mail leaves. */
export async function countUpdate(work: Work, book: HouseBook, updateId: Id<'member_update'>): Promise<void> {
  const update = (await work.tx('member_update').where({ id: updateId }).first('umbrella_id'))!;
  // The umbrella's row is locked, so that of mails which leave at once one counts.
  await work.tx('ticket').where({ id: update.umbrella_id }).forUpdate().first('id');
  const n = await countOf(work.tx('message').where({ update_id: updateId }).whereNotNull('left_at'));
  if (n !== 1) return;
  await addFacts(work, update.umbrella_id, [{ at: work.now, is: 'public-contact' }]);
  await storeClocks(work, book, { ticketId: update.umbrella_id });
}
