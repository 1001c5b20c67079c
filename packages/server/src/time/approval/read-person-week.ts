import { markOdd, type JudgedEntryWire } from '@core/time';
import { dateOf, formatInstant, parseInstant, plusDays, type LocalDate, type Instant } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { expectedMinutes, type HouseBook, readWork, spanOfDates } from '../../house';
import { datesShown } from '../../scheduling';
import { readExpenses } from '../expenses/read-expenses';
import { readEntries } from '../time-entries/day-sheet-read-model';

/** A person's week as who approves it sees it: the entries that begin in it, with what is odd and who decided what. */
export async function readPersonWeek(
  db: Db,
  book: HouseBook,
  { person, day }: { readonly person: { id: string; name: string }; readonly day: LocalDate },
) {
  const dates = datesShown(day, 7);
  const ends = [dates[0]!, plusDays(dates[6]!, 1)] as const;
  const span = spanOfDates(book, ...ends);
  const read = await readEntries(db, (q) =>
    q.where({ 'e.person_id': person.id }).where('e.starts_at', '>=', at(span.from)).where('e.starts_at', '<', at(span.to)),
  );
  const entries = read.map(({ entry }) => entry);
  const odd = await readOdd(db, book, entries);
  const traces = await readTraces(
    db,
    'entry_id',
    entries.map((e) => e.id),
  );
  const expenses = await readExpenses(db, book, (q) => q.where({ 'x.person_id': person.id }).whereBetween('x.day', [dates[0]!, dates[6]!]));
  const spent = await readTraces(
    db,
    'expense_id',
    expenses.map((x) => x.id),
  );
  const work = (await readWork(db, book, { personIds: [person.id], dates: ends })).get(person.id)!;
  return {
    person: person.name,
    days: dates.map((date) => ({
      day: date,
      expectedMinutes: expectedMinutes(book, work, date),
      recordedMinutes: entries.filter((e) => dayOf(book, e.startsAt) === date).reduce((sum, e) => sum + e.minutes, 0),
    })),
    entries: entries.map((entry): JudgedEntryWire => ({
      entry,
      approval: entry.approval,
      odd: odd.get(entry.id) ?? [],
      trace: traces.get(entry.id) ?? [],
    })),
    expenses: expenses.map((expense) => ({ expense, trace: spent.get(expense.id) ?? [] })),
  };
}

const dayOf = (book: HouseBook, startsAt: string) => dateOf(parseInstant(startsAt), book.house.zone);

/** Corrections are not judged: who made them says why in their note. */
async function readOdd(db: Db, book: HouseBook, entries: readonly JudgedEntryWire['entry'][]) {
  const judged = entries.filter((e) => !e.corrects);
  const closed = new Map<string, Instant>(
    (
      await db('work_facts')
        .whereIn(
          'id',
          judged.map((e) => e.workId),
        )
        .whereNotNull('closed_at')
        .select('id', 'closed_at')
    ).map((t) => [t.id, t.closed_at!]),
  );
  return markOdd(
    judged.map((e) => ({
      id: e.id,
      from: parseInstant(e.startsAt),
      to: parseInstant(e.endsAt),
      note: e.note ?? e.insideNote,
      closedAt: closed.get(e.workId) ?? null,
    })),
    { calendar: book.house.calendar, longMinutes: book.house.time.longMinutes },
  );
}

type Trace = JudgedEntryWire['trace'][number];
const SAYS: Readonly<Record<string, string>> = {
  approve: 'approved',
  return: 'returned',
  'take back': 'took the approval back',
  change: 'changed',
};

async function readTraces(db: Db, column: 'entry_id' | 'expense_id', ids: readonly string[]): Promise<Map<string, Trace[]>> {
  const rows: Row<'time_decision'>[] = await db('time_decision as d').whereIn(`d.${column}`, ids).orderBy('d.id').select('d.*');
  const traces = new Map<string, Trace[]>();
  for (const d of rows) {
    const was = d.was ? `, was ${d.was}` : '';
    const trace = { at: formatInstant(d.at), who: d.who_name, what: `${SAYS[d.decision]}${was}`, remark: d.remark };
    const judged = d[column]!;
    traces.set(judged, [...(traces.get(judged) ?? []), trace]);
  }
  return traces;
}
