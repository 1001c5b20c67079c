import type { EntryEffect } from '@core/time';
import type { Id } from '@core/ground';
import type { Knex } from 'knex';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { HouseBook } from '../../house';
import { effectsOfRows, type RatedRow } from './effects-of-rows';

/**
 * Rates entries and stores what each does, so that it is shown as it was rated. Every entry has one when its transaction
 * ends; what a decision stands on is never rated again.
 * @param rows entries with their work's ticket kind, none frozen
 * @returns what they do, in their order
 */
export async function rateEntries(
  tx: Knex.Transaction,
  book: HouseBook,
  rows: readonly (RatedRow & Row<'time_entry', 'id'>)[],
): Promise<EntryEffect[]> {
  if (!rows.length) return [];
  const effects = await effectsOfRows(tx, book, rows);
  await tx('entry_effect')
    .insert(rows.map((row, n) => ({ time_entry_id: row.id, effect: JSON.stringify(effects[n]) })))
    .onConflict('time_entry_id')
    .merge();
  return effects;
}

/** Rates the entries that have no effect yet, as where many were brought in at once. */
export async function rateUnrated(tx: Knex.Transaction, book: HouseBook): Promise<void> {
  const rows: (Row<'time_entry'> & Row<'work_facts', 'ticket_kind'>)[] = await tx('time_entry as e')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .leftJoin('entry_effect as x', 'x.time_entry_id', 'e.id')
    .whereNull('x.time_entry_id')
    .select('e.*', 'w.ticket_kind');
  await rateEntries(tx, book, rows);
}

/** What stored entries do, by their ids. */
export async function readEffects(db: Db, entryIds: readonly Id<'time_entry'>[]): Promise<ReadonlyMap<string, EntryEffect>> {
  const rows: Row<'entry_effect'>[] = await db('entry_effect').whereIn('time_entry_id', entryIds);
  return new Map(rows.map((row) => [row.time_entry_id, row.effect]));
}
