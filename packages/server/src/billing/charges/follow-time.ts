import type { TimeEvents } from '@core/time';
import type { Id, Outcome } from '@core/ground';
import type { Work } from '../../app/work';
import { chargeEntry, chargeVisit } from './charge-entry';

/** What an entry charges is proposed with it, and follows it. */
export async function chargeTime(work: Work, entryId: Id<'time_entry'>): Promise<Outcome<unknown>> {
  await chargeEntry(work, work.book, entryId);
  return {};
}

export async function chargeChangedTime(
  work: Work,
  entryId: Id<'time_entry'>,
  { personId, workId: [was, is] }: TimeEvents['entry.changed'],
): Promise<Outcome<unknown>> {
  await chargeEntry(work, work.book, entryId);
  // It may have left one piece of work for another, and a visit there whose fee it had.
  if (was !== is) await chargeVisit(work, work.book, { personId, workId: was });
  return {};
}

export function chargeCorrection(work: Work, _: string, { byEntryId }: TimeEvents['entry.corrected']): Promise<Outcome<unknown>> {
  return chargeTime(work, byEntryId);
}
