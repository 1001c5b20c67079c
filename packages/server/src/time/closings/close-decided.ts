import { dateOf, datesIn, type Id, isRefusal, type LocalDate, type Outcome } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { closePeriods, readClosable, readToClose, type RowToClose } from './close-periods';

/**
 * Closes the periods of a contract that are over by a day, up to the first in which work waits for a decision: a step of the
 * billing run. Source: docs/calculations.md, A billing run.
 */
export async function closeDecided(
  work: Work,
  { contractId, by }: { readonly contractId: Id<'contract'>; readonly by: LocalDate },
): Promise<Outcome<{ entries: number }>> {
  const { zone } = work.book.house;
  const now = dateOf(work.now, zone);
  await work.tx('contract').where({ id: contractId }).forNoKeyUpdate().select('id');
  const found = await readClosable(work.tx, { contractId, today: by < now ? by : now });
  if (isRefusal(found)) return found;
  const last = found.next.at(-1);
  if (last === undefined) return { entries: 0 };
  const rows = await readToClose(work.tx, work.book, { contractId, to: last });
  const undecided = (await undecidedOf(work, rows)).map((r) => datesIn(zone)(r.starts_at)).sort();
  const to = found.next.filter((day) => undecided[0] === undefined || day <= undecided[0]).at(-1);
  return to === undefined ? { entries: 0 } : closePeriods(work, { contractId, to });
}

async function undecidedOf(work: Work, rows: readonly RowToClose[]): Promise<readonly RowToClose[]> {
  const waiting: Row<'charge', 'time_entry_id'>[] = await work
    .tx('charge')
    .whereRaw('time_entry_id = any(?)', [rows.map((r) => r.id)])
    .where({ state: 'proposed' })
    .select('time_entry_id');
  const ids = new Set(waiting.map((w) => w.time_entry_id));
  return rows.filter((r) => ids.has(r.id));
}
