import type { ClientEvents } from '@core/clients';
import type { Id, Outcome } from '@core/ground';
import type { Work } from '../../app/work';
import { settlePlaces } from './read-travel';

/** A site that moved changes the ways of the days that lead there. */
export async function settleChangedSite(work: Work, _: string, { siteId }: ClientEvents['client.site-changed']): Promise<Outcome<unknown>> {
  await settlePlaces(work, work.book, [siteId]);
  return {};
}

export async function settleChangedHome(work: Work, personId: Id<'person'>): Promise<Outcome<unknown>> {
  await settlePlaces(work, work.book, [personId]);
  return {};
}
