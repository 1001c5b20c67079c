import { type Id, plusSeconds, step } from '@core/ground';
import { effectOfCorrection, effectOfEntry, type EntryEffect, NOT_CHARGED } from '@core/time';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { type OwnRoundings, readRoundingsOf } from '../../contracts';
import type { HouseBook } from '../../house';
import { type RateBooks, readRateBooks } from './rate-books';

/** What an entry is rated by, with its work's ticket kind. */
export type RatedRow = Row<
  'time_entry',
  'client_id' | 'starts_at' | 'grade_id' | 'activity_id' | 'billable' | 'minutes' | 'corrects' | 'corrected_from'
> &
  Row<'work_facts', 'ticket_kind'> & {
    /** Of a stored entry. */
    readonly id?: Id<'time_entry'>;
    readonly contract_id?: Id<'contract'> | null;
  };

/** What entries are rated by. */
interface Rating {
  readonly rates: RateBooks;
  readonly roundings: OwnRoundings;
  readonly book: HouseBook;
}

/**
 * What entries do by their rates, in their order; a correction does the difference it makes. Few reads, however many they are.
 * @param rows entries with their work's ticket kind
 * @param contracts the contract of each, whose own rates and rounding come first
 */
export async function effectsOfRows(
  db: Db,
  book: HouseBook,
  { rows, contracts }: { readonly rows: readonly RatedRow[]; readonly contracts: readonly (Id<'contract'> | null)[] },
): Promise<EntryEffect[]> {
  const corrected = rows.flatMap((row) => row.corrects ?? []);
  const firsts: Row<'time_entry'>[] = corrected.length ? await db('time_entry').whereIn('id', corrected) : [];
  const sums = await readCorrections(db, rows);
  const rates = await readRateBooks(
    db,
    book,
    [...rows, ...firsts].map((row) => row.client_id),
  );
  const roundings = await readRoundingsOf(
    db,
    [...new Set(contracts)].filter((id) => id !== null),
  );
  const by = { rates, roundings, book };
  return rows.map((row, n) => {
    if (!row.corrects) return rated(by, { row, contractId: contracts[n]!, minutes: row.minutes + (sums.get(row.id ?? '') ?? 0) });
    const first = { ...firsts.find((f) => f.id === row.corrects)!, ticket_kind: row.ticket_kind };
    if (first.contract_id !== null) return withFirst(row.minutes);
    return corrects(by, { first, minutes: [row.corrected_from!, row.corrected_from! + row.minutes] });
  });
}

/** Under a contract an entry is rated with all its corrections, so that it draws once. Minutes by the entry's id. */
async function readCorrections(db: Db, rows: readonly RatedRow[]): Promise<ReadonlyMap<string, number>> {
  const ids = rows.flatMap((row) => (row.id !== undefined && row.contract_id ? [row.id] : []));
  if (!ids.length) return new Map();
  const sums: Row<'time_entry', 'corrects' | 'minutes'>[] = await db('time_entry')
    .whereIn('corrects', ids)
    .whereNull('removed_at')
    .groupBy('corrects')
    .select('corrects', db.raw('sum(minutes)::int as minutes'));
  return new Map(sums.map((s) => [s.corrects!, s.minutes]));
}

/** A correction under a contract does nothing by itself. */
function withFirst(minutes: number): EntryEffect {
  const is = 'with what it corrects';
  return {
    is,
    amount: null,
    sentence: NOT_CHARGED[is],
    billedMinutes: 0,
    parts: [],
    why: [step('corrected by', `${minutes} min`), step(NOT_CHARGED[is])],
  };
}

/** What it does to bring an entry from some minutes to others. @param first the entry with its work's ticket kind */
export async function readCorrection(
  db: Db,
  book: HouseBook,
  { first, minutes }: { readonly first: RatedRow; readonly minutes: readonly [before: number, after: number] },
): Promise<EntryEffect> {
  if (first.contract_id) return withFirst(minutes[1] - minutes[0]);
  return corrects({ rates: await readRateBooks(db, book, [first.client_id]), roundings: () => undefined, book }, { first, minutes });
}

function corrects(
  by: Rating,
  { first, minutes: [before, after] }: { readonly first: RatedRow; readonly minutes: readonly [number, number] },
): EntryEffect {
  const worth = (minutes: number) => ({ minutes, effect: minutes === 0 ? null : rated(by, { row: first, contractId: null, minutes }) });
  return effectOfCorrection(worth(before), worth(after));
}

function rated(
  { rates, roundings, book }: Rating,
  { row, contractId, minutes }: { readonly row: RatedRow; readonly contractId: Id<'contract'> | null; readonly minutes: number },
): EntryEffect {
  const activity = book.activity(row.activity_id);
  const rounding = roundings(contractId, row.activity_id);
  return effectOfEntry(
    {
      from: row.starts_at,
      to: plusSeconds(row.starts_at, minutes * 60),
      minutes,
      gradeId: row.grade_id,
      activity: activity && rounding ? { ...activity, rounding } : activity,
      billable: row.billable,
      clientId: row.client_id,
      ticketKind: row.ticket_kind,
    },
    rates(row.client_id, contractId),
  );
}
