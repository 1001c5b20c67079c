import type { EntryEffect } from '@core/time';
import type { Id } from '@core/ground';
import type { Knex } from 'knex';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { HouseBook } from '../../house';
import type { EntryToPlace } from './choose-contracts';
import { rateByContract } from './rate-by-contract';
import { coverEntries, type DrawnWork } from './cover-entries';
import type { RatedRow } from './effects-of-rows';

export interface RatedEntries {
  /** What they do, in their order. */
  readonly effects: readonly EntryEffect[];
  /** Other entries of their contracts that do something else now. */
  readonly others: readonly Id<'time_entry'>[];
  /** What stands of each contract that may have been drawn on. */
  readonly drawn: ReadonlyMap<string, DrawnWork>;
}

/**
 * Rates entries, lets each find its contract, and stores what each does, so that it is shown as it was rated. What a contract
 * does depends on all its work, so other entries of it may change with them. Every entry has an effect when its transaction
 * ends; what a decision stands on is never rated again.
 * @param rows entries with their work's ticket kind, none frozen
 */
export async function rateEntries(
  tx: Knex.Transaction,
  book: HouseBook,
  rows: readonly (RatedRow & EntryToPlace & Row<'time_entry', 'id' | 'contract_id' | 'removed_at'>)[],
): Promise<RatedEntries> {
  if (!rows.length) return { effects: [], others: [], drawn: new Map() };
  const { byRate, contracts, chosen } = await rateByContract(tx, book, rows);
  const touched = [...new Set([...contracts, ...rows.map((r) => r.contract_id)])].filter((id) => id !== null).sort();
  // Two who save work of one contract wait for each other here, before either has touched it: nothing is drawn twice.
  if (touched.length) await tx('contract').whereIn('id', touched).orderBy('id').forNoKeyUpdate().select('id');
  for (const contractId of new Set(contracts)) {
    const ids = rows.flatMap((row, n) => (contracts[n] === contractId && row.contract_id !== contractId ? [row.id] : []));
    if (ids.length) await tx('time_entry').whereIn('id', ids).update({ contract_id: contractId });
  }
  const fresh = byId(rows, byRate);
  const covered = touched.length ? await coverEntries(tx, book, { contractIds: touched, fresh, chosen: byId(rows, chosen) }) : undefined;
  const effects = rows.map((row, n) => (row.removed_at === null ? covered?.effects.get(row.id) : undefined) ?? byRate[n]!);
  const others = (covered?.changed ?? []).filter((id) => !fresh.has(id));
  const stored = [
    ...rows.map((row, n) => ({ time_entry_id: row.id, effect: JSON.stringify(effects[n]) })),
    ...others.map((id) => ({ time_entry_id: id, effect: JSON.stringify(covered!.effects.get(id)) })),
  ];
  await tx('entry_effect').insert(stored).onConflict('time_entry_id').merge();
  return { effects, others, drawn: covered?.drawn ?? new Map() };
}

const byId = <T>(rows: readonly Row<'time_entry', 'id'>[], all: readonly T[]) => new Map(rows.map((row, n) => [row.id, all[n]!]));

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
