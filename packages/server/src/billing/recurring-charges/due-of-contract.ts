import { billLine, type BilledLine, type CountedAsBilled } from '@core/contracts';
import { type Id, type LocalDate, money, parseLocalDate } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { readLines, type StoredLine } from '../../contracts';
import type { HouseBook } from '../../house';

/** What is due of a line, and the parts of its periods that were decided on. */
export interface DueLine extends BilledLine {
  readonly line: StoredLine;
  readonly decided: readonly Row<'charge', 'period' | 'part' | 'net_minor' | 'state'>[];
}

/** The first day of a stored period, written as "[2026-11-01,2026-12-01)". */
export function periodStart(period: string): LocalDate {
  return parseLocalDate(period.slice(1, 11));
}

/** The first day after a stored period. */
export function periodEnd(period: string): LocalDate {
  return parseLocalDate(period.slice(12, 22));
}

type Decided = Row<'charge', 'contract_line_id' | 'period' | 'part' | 'net_minor' | 'settles_minor' | 'state'>;

/** What a run at a day bills of a contract, line by line. */
export async function dueOfContract(
  db: Db,
  book: HouseBook,
  { contractId, at }: { readonly contractId: Id<'contract'>; readonly at: LocalDate },
): Promise<DueLine[]> {
  return dueOfLines(db, book, { lines: await readLines(db, [contractId]), at });
}

/**
 * What a run at a day bills of lines as they are given. What was approved, waived or adjusted counts as billed; of what was
 * adjusted, what it was before.
 */
export async function dueOfLines(
  db: Db,
  book: HouseBook,
  { lines, at }: { readonly lines: readonly StoredLine[]; readonly at: LocalDate },
): Promise<DueLine[]> {
  const charges: Decided[] = await db('charge')
    .whereIn(
      'contract_line_id',
      lines.map((l) => l.id),
    )
    .where({ cause: 'recurring' })
    .where((q) => void q.whereIn('state', ['approved', 'waived', 'withdrawn']).orWhereNotNull('settles_minor'))
    .select('contract_line_id', 'period', 'part', 'net_minor', 'settles_minor', 'state');
  const { currency } = book.house;
  return lines.map((line) => {
    const decided = charges.filter((c) => c.contract_line_id === line.id);
    const billed = decided
      .filter((c) => c.state !== 'withdrawn')
      .map((c): CountedAsBilled => ({ from: periodStart(c.period!), net: money(c.settles_minor ?? c.net_minor, currency) }));
    return { line, decided, ...billLine(line, { at, billed, currency }) };
  });
}
