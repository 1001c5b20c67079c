import { costOfTime, type TriedContract, type PastWork } from '@core/billing';
import { callOutFeesDue, isChargedByTime, type VisitEntry } from '@core/time';
import { dateOf, type Id, type LocalDate, type Money, plusDays, plusSeconds, sumMoney } from '@core/ground';
import { at, type Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';
import { readCoverTerms, readLines, readRoundingsOf } from '../../contracts';
import { type HouseBook, spanOfDates } from '../../house';
import { callOut, readRateBooks } from '../../time';

/** What is tried: a client's work of a span. */
export interface TrialSpan {
  readonly clientId: Id<'client'>;
  readonly from: LocalDate;
  /** The first day after it. */
  readonly to: LocalDate;
}

type WorkRow = Row<
  'time_entry',
  'id' | 'work_id' | 'person_id' | 'ticket_id' | 'starts_at' | 'minutes' | 'grade_id' | 'activity_id' | 'billable' | 'client_id'
> &
  Row<'work_facts', 'ticket_kind'> & { readonly desk_id: string | null };

/** All time that was recorded for a client in a span, with corrections counted in what they correct. */
async function readWork(db: Db, book: HouseBook, { clientId, from, to }: TrialSpan): Promise<WorkRow[]> {
  const span = spanOfDates(book, from, plusDays(to, -1));
  return db('time_entry as e')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .leftJoin('ticket as t', 't.id', 'e.ticket_id')
    .where({ 'e.client_id': clientId })
    .whereNull('e.removed_at')
    .whereNull('e.corrects')
    .where('e.starts_at', '>=', at(span.from))
    .where('e.starts_at', '<', at(span.to))
    .orderBy(['e.starts_at', 'e.id'])
    .select(
      'e.id',
      'e.person_id',
      'e.work_id',
      'e.ticket_id',
      'e.starts_at',
      'e.grade_id',
      'e.activity_id',
      'e.billable',
      'e.client_id',
      'w.ticket_kind',
      't.desk_id',
      db.raw(
        `(e.minutes + coalesce((select sum(k.minutes) from time_entry k where k.corrects = e.id and k.removed_at is null), 0))::int as minutes`,
      ),
    );
}

/** Past work as contracts are tried on it, and what its time cost the provider by month. */
export async function readPast(
  db: Db,
  book: HouseBook,
  span: TrialSpan,
): Promise<{ readonly work: readonly PastWork[]; readonly costs: readonly MonthCost[] }> {
  const rows = await readWork(db, book, span);
  const due = visitsOf(book, rows);
  const work = rows.map((row): PastWork => ({
    id: row.id,
    ticketId: row.ticket_id,
    deskId: row.desk_id,
    callOut: due.has(row.id) ? (callOut(book, row.activity_id)?.net ?? null) : null,
    facts: {
      from: row.starts_at,
      to: plusSeconds(row.starts_at, row.minutes * 60),
      minutes: row.minutes,
      gradeId: row.grade_id,
      activity: book.activity(row.activity_id),
      billable: row.billable,
      clientId: row.client_id,
      ticketKind: row.ticket_kind,
    },
  }));
  return { work, costs: await readCosts(db, book, rows) };
}

/** The entries with which a visit begins that is charged for, as any contract finds them. */
function visitsOf(book: HouseBook, rows: readonly WorkRow[]): ReadonlySet<string> {
  const charged = rows.filter((row) => isChargedByTime({ billable: row.billable, clientId: row.client_id, ticketKind: row.ticket_kind }));
  return callOutFeesDue(
    charged.flatMap((row): VisitEntry[] => {
      const activity = book.activity(row.activity_id);
      const on = dateOf(row.starts_at, book.house.zone);
      return activity ? [{ id: row.id, personId: row.person_id, workId: row.work_id, on, activity, startsAt: row.starts_at }] : [];
    }),
  );
}

/** What time of a month cost; minutes of people who had no rate on their day cost nothing and are counted. */
export interface MonthCost {
  readonly month: LocalDate;
  /** Minor units. */
  readonly cost: number;
  /** Of all time, also what is not billable. */
  readonly minutes: number;
  readonly withoutRate: number;
}

async function readCosts(db: Db, book: HouseBook, rows: readonly WorkRow[]): Promise<MonthCost[]> {
  const rates: Row<'cost_rate'>[] = await db('cost_rate')
    .whereIn('person_id', [...new Set(rows.map((r) => r.person_id))])
    .orderBy('from_on');
  const rateOf = (row: WorkRow, on: LocalDate) => rates.findLast((r) => r.person_id === row.person_id && r.from_on <= on);
  const sums = new Map<LocalDate, CostSum>();
  for (const row of rows) {
    const on = dateOf(row.starts_at, book.house.zone);
    const month = `${on.slice(0, 8)}01` as LocalDate;
    const sum = sums.get(month) ?? { parts: [], minutes: 0, withoutRate: 0 };
    sums.set(month, sum);
    sum.minutes += row.minutes;
    const rate = rateOf(row, on);
    if (rate) sum.parts.push(costOfTime(row.minutes, plainDecimal(rate.rate), book.house.currency));
    else sum.withoutRate += row.minutes;
  }
  return [...sums].map(([month, { parts, ...minutes }]) => ({ month, cost: sumMoney(parts, book.house.currency).minor, ...minutes }));
}

interface CostSum {
  readonly parts: Money[];
  minutes: number;
  withoutRate: number;
}

/** Contracts as they are tried, by the hour first. */
export async function readTried(
  db: Db,
  book: HouseBook,
  { clientId, contractIds }: { readonly clientId: Id<'client'>; readonly contractIds: readonly Id<'contract'>[] },
): Promise<TriedContract[]> {
  const [terms, lines, rates, roundings] = await Promise.all([
    readCoverTerms(db, contractIds),
    readLines(db, contractIds),
    readRateBooks(db, book, [clientId]),
    readRoundingsOf(db, contractIds),
  ]);
  const activities = await db('activity').select('id');
  const byTheHour = { name: 'By the hour', terms: null, lines: [], book: rates(clientId, null), roundings: {} };
  return [
    byTheHour,
    ...contractIds.map((id): TriedContract => {
      const own = terms.get(id)!;
      return {
        name: `${own.number} ${own.name}`,
        terms: own.rules.length ? own : null,
        lines: lines.filter((l) => l.contractId === id),
        book: rates(clientId, id),
        roundings: Object.fromEntries(
          activities.flatMap((a) => {
            const rounding = roundings(id, a.id);
            return rounding ? [[a.id, rounding]] : [];
          }),
        ),
      };
    }),
  ];
}
