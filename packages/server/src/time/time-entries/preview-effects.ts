import { ticketIdOf } from '@core/ground';
import type { EntryEffect } from '@core/time';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { HouseBook } from '../../house';
import type { EntryToPlace } from './choose-contracts';
import { coverEntries } from './cover-entries';
import type { RatedRow } from './effects-of-rows';
import { rateByContract } from './rate-by-contract';

/** An entry as it would be stored; a new one has no id. */
export type PreviewedRow = RatedRow &
  EntryToPlace &
  Row<'time_entry', 'work_kind'> & {
    /** A decision stands on it: it stays as it is. */
    readonly frozen?: boolean;
  };

/** What is new comes after all that began in the same second, in its order. */
const newId = (n: number): string => `ffffffff-ffff-4fff-bfff-${String(n).padStart(12, 'f')}`;

/**
 * What entries would do once all of them are stored, each under the contract that it finds, in their order.
 * @param without entries that would be there no more
 */
export async function previewEffects(
  db: Db,
  book: HouseBook,
  { rows, without = [] }: { readonly rows: readonly PreviewedRow[]; readonly without?: readonly string[] },
): Promise<EntryEffect[]> {
  const { byRate, contracts, chosen } = await rateByContract(db, book, rows);
  const contractIds = [...new Set(contracts)].filter((id) => id !== null);
  if (!contractIds.length) return [...byRate];
  const entries = rows.map((row, n) => ({
    id: row.id ?? newId(n),
    starts_at: row.starts_at,
    grade_id: row.grade_id,
    activity_id: row.activity_id,
    ticket_id: row.work_kind === 'ticket' ? ticketIdOf(row.work_id) : null,
    contract_id: contracts[n]!,
    effect: null,
  }));
  const fresh = new Map(entries.map((entry, n) => [entry.id, byRate[n]!]));
  const found = new Map(entries.map((entry, n) => [entry.id, chosen[n]!]));
  const instead = entries.filter((_, n) => !rows[n]!.frozen);
  const { effects } = await coverEntries(db, book, { contractIds, fresh, chosen: found, instead, without });
  return entries.map(({ id }, n) => effects.get(id) ?? byRate[n]!);
}
