import type { TimeEvents } from '@core/time';
import type { Outcome } from '@core/ground';
import type { Work } from '../../app/work';
import { chargeEntry, chargeVisit } from './charge-entry';

/** What an entry charges is proposed with it, and follows it. */
export async function chargeTime(work: Work, entryId: string): Promise<Outcome<unknown>> {
  await chargeEntry(work, work.book, entryId);
  return {};
}

export async function chargeChangedTime(
  work: Work,
  entryId: string,
  { personId, ticketId: [was, is] }: TimeEvents['entry.changed'],
): Promise<Outcome<unknown>> {
  await chargeEntry(work, work.book, entryId);
  // It may have left one ticket for another, and a visit there whose fee it had.
  if (was !== null && was !== is) await chargeVisit(work, work.book, { personId, ticketId: was });
  return {};
}

export function chargeCorrection(work: Work, _: string, { byEntryId }: TimeEvents['entry.corrected']): Promise<Outcome<unknown>> {
  return chargeTime(work, byEntryId);
}
