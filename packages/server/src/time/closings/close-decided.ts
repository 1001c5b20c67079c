import { dateOf, datesIn, type Id, isRefusal, type LocalDate, type Outcome } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { closePeriods, readClosable, readToClose, type RowToClose } from './close-periods';

export interface Decided {
  /** The first day that stays open; null where nothing can be closed. */
  readonly to: LocalDate | null;
  /** That would be closed. */
  readonly entries: number;
  /** Of periods that are over: entries that keep them open. */
  readonly waiting: number;
}

/**
 * Up to when a contract can be closed by a day: its periods that are over, up to the first in which work waits for a decision.
 * Source: docs/calculations.md, A billing run.
 */
export async function readDecided(
  db: Db,
  book: HouseBook,
  { contractId, by, today }: { readonly contractId: Id<'contract'>; readonly by: LocalDate; readonly today: LocalDate },
): Promise<Outcome<Decided>> {
  const found = await readClosable(db, { contractId, today: by < today ? by : today });
  if (isRefusal(found)) return found;
  const last = found.next.at(-1);
  if (last === undefined) return { to: null, entries: 0, waiting: 0 };
  const rows = await readToClose(db, book, { contractId, to: last });
  const on = datesIn(book.house.zone);
  const waiting = (await undecidedOf(db, rows)).map((r) => on(r.starts_at)).sort();
  const to = found.next.filter((day) => waiting[0] === undefined || day <= waiting[0]).at(-1) ?? null;
  return { to, entries: to === null ? 0 : rows.filter((r) => on(r.starts_at) < to).length, waiting: waiting.length };
}

/** Closes the periods of a contract that are over by a day and decided: a step of the billing run. */
export async function closeDecided(
  work: Work,
  { contractId, by }: { readonly contractId: Id<'contract'>; readonly by: LocalDate },
): Promise<Outcome<{ entries: number }>> {
  await work.tx('contract').where({ id: contractId }).forNoKeyUpdate().select('id');
  const found = await readDecided(work.tx, work.book, { contractId, by, today: dateOf(work.now, work.book.house.zone) });
  if (isRefusal(found)) return found;
  return found.to === null ? { entries: 0 } : closePeriods(work, { contractId, to: found.to });
}

async function undecidedOf(db: Db, rows: readonly RowToClose[]): Promise<readonly RowToClose[]> {
  const waiting: Row<'charge', 'time_entry_id'>[] = await db('charge')
    .whereRaw('time_entry_id = any(?)', [rows.map((r) => r.id)])
    .where({ state: 'proposed' })
    .select('time_entry_id');
  const ids = new Set(waiting.map((w) => w.time_entry_id));
  return rows.filter((r) => ids.has(r.id));
}
