import type { Id, Instant } from '@core/ground';
import type { EntryEffect } from '@core/time';
import type { Db } from '../../app/database';
import type { HouseBook } from '../../house';
import { contractsOf, coverEntries } from './cover-entries';

/** What is new comes after all that began in the same second. */
const NEW_ENTRY = 'ffffffff-ffff-4fff-bfff-ffffffffffff';

export interface EntryToPreview {
  /** Of an entry that is changed; undefined where it is new. */
  readonly id: Id<'time_entry'> | undefined;
  readonly from: Instant;
  readonly gradeId: Id<'grade'>;
  readonly activityId: Id<'activity'>;
  readonly clientId: Id<'client'> | null;
  readonly ticketId: Id<'ticket'> | null;
}

/** What an entry would do under the contract that it finds, before it is stored; its effect by rate where it finds none. */
export async function previewUnderContract(
  db: Db,
  book: HouseBook,
  { effect, entry }: { readonly effect: EntryEffect; readonly entry: EntryToPreview },
): Promise<EntryEffect> {
  const row = { client_id: entry.clientId, starts_at: entry.from, corrects: null };
  const [contractId] = await contractsOf(db, book, { rows: [row], effects: [effect] });
  if (!contractId) return effect;
  const id = entry.id ?? NEW_ENTRY;
  const added = {
    id,
    starts_at: entry.from,
    grade_id: entry.gradeId,
    activity_id: entry.activityId,
    ticket_id: entry.ticketId,
    contract_id: contractId,
    effect: null,
  };
  const { effects } = await coverEntries(db, book, { contractIds: [contractId], fresh: new Map([[id, effect]]), added });
  return effects.get(id) ?? effect;
}
