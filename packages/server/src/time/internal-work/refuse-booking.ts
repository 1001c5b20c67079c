import { type Id, type Refusal, refuse } from '@core/ground';
import type { Work } from '../../app/work';

/** Internal work that was put away keeps its time and takes no more bookings. */
export async function refuseInternalBooking(work: Work, workId: Id<'work'>): Promise<Refusal | undefined> {
  const { name, archived_at } = (await work
    .tx('internal_work')
    .where({ id: workId as Id<'internal_work'> })
    .first('name', 'archived_at'))!;
  return archived_at ? refuse('not-possible-now', `${name} was put away; it takes no more bookings.`) : undefined;
}
