import { type CoverTerms, coverWork, periodAt, periodIndex, type RecurringLine, worthOfPeriod } from '../../contracts';
import { type Currency, dateOf, type Id, type LocalDate, type Money, money, plusDays, sumMoney } from '../../ground';
import { effectOfEntry, type EntryFacts, type RateBook, type Rounding } from '../../time';

/** Work that was done for a client, as it was recorded. */
export interface PastWork {
  readonly id: string;
  readonly ticketId: string | null;
  readonly deskId: string | null;
  readonly facts: EntryFacts;
  /** What coming is charged at, of an entry with which a visit begins. */
  readonly callOut: Money | null;
}

/** A contract that is tried on it, as if it had begun with the span; no terms is work by the hour. */
export interface TriedContract {
  readonly name: string;
  readonly terms: CoverTerms | null;
  readonly lines: readonly RecurringLine[];
  /** The rates that hold under it. */
  readonly book: RateBook;
  /** How it rounds, by activity; the empty name is all others. */
  readonly roundings: Readonly<Record<string, Rounding>>;
}

/** What a client would have paid for a month, net. */
export interface TriedMonth {
  /** Its first day. */
  readonly month: LocalDate;
  readonly recurring: Money;
  /** Work that the contract does not cover, or for which nothing was left, with call-outs. */
  readonly work: Money;
  readonly total: Money;
  readonly minutes: number;
  readonly coveredMinutes: number;
}

/**
 * What past work of a client would have cost under a contract, month by month: all of it rated and drawn anew, and its lines as
 * they stand on the last day. A recurring charge counts in the month in which its period begins.
 * @param from the first day of a month
 * @param to the first day after a month
 * @param goOn told the share that is done, between 0 and 1
 */
export function wouldCost(
  { terms, lines, book, roundings }: TriedContract,
  {
    work,
    from,
    to,
    goOn,
  }: { readonly work: readonly PastWork[]; readonly from: LocalDate; readonly to: LocalDate; readonly goOn: (share: number) => void },
): TriedMonth[] {
  const { currency } = book;
  const months = monthsOf(from, to);
  const sums = new Map(months.map((m) => [m, { recurring: [] as Money[], work: [] as Money[], minutes: 0, coveredMinutes: 0 }]));
  const rated = work.flatMap((w, n) => {
    if (n % TELL === 0) goOn(n / work.length);
    const on = dateOf(w.facts.from, book.zone);
    const effect = effectOfEntry(roundedBy(w.facts, roundings), book);
    return effect.is === 'charged' && on >= from && on < to ? [{ ...w, on, effect }] : [];
  });
  const covered = terms && coverWork({ ...terms, from, to: null }, rated.map(toCover), { currency }).entries;
  const byId = new Map(covered?.map((c) => [c.id, c]));
  for (const { id, on, effect, facts, callOut } of rated) {
    const sum = sums.get(monthStart(on))!;
    const under = byId.get(id);
    sum.work.push(...(under ? under.stretches.map((s) => s.charge) : effect.parts.map((p) => p.net)));
    if (callOut && !under?.coversFees) sum.work.push(callOut);
    sum.minutes += facts.minutes;
    sum.coveredMinutes += under?.stretches.reduce((total, s) => total + s.coveredMinutes, 0) ?? 0;
  }
  for (const line of lines.map((l) => asItStands(l, from, to)))
    for (let n = periodIndex(line.schedule, from); periodAt(line.schedule, n).from < to; n++) {
      const period = periodAt(line.schedule, n);
      const month = monthStart(period.from < from ? from : period.from);
      sums.get(month)!.recurring.push(worthOfPeriod(line, period, currency).amount);
    }
  goOn(1);
  return months.map((month) => monthOf(month, sums.get(month)!, currency));
}

/** So many pieces of work are rated before it is told again how far it is. */
const TELL = 500;

interface Sums {
  readonly recurring: readonly Money[];
  readonly work: readonly Money[];
  readonly minutes: number;
  readonly coveredMinutes: number;
}

function monthOf(month: LocalDate, { minutes, coveredMinutes, ...all }: Sums, currency: Currency): TriedMonth {
  const [recurring, work] = [sumMoney(all.recurring, currency), sumMoney(all.work, currency)];
  return { month, recurring, work, total: money(recurring.minor + work.minor, currency), minutes, coveredMinutes };
}

function roundedBy(facts: EntryFacts, roundings: TriedContract['roundings']): EntryFacts {
  const rounding = facts.activity && (roundings[facts.activity.id] ?? roundings['']);
  return facts.activity && rounding ? { ...facts, activity: { ...facts.activity, rounding } } : facts;
}

function toCover({
  id,
  ticketId,
  deskId,
  facts,
  on,
  effect,
}: PastWork & { readonly on: LocalDate; readonly effect: ReturnType<typeof effectOfEntry> }) {
  const activityId = facts.activity!.id;
  return {
    id,
    startsAt: facts.from,
    on,
    gradeId: facts.gradeId as Id<'grade'>,
    activityId,
    ticketId,
    deskId,
    kind: facts.ticketKind,
    stretches: effect.parts,
  };
}

/** A line over a whole span with its last price and with who is on it in the end. */
function asItStands(line: RecurringLine, from: LocalDate, to: LocalDate): RecurringLine {
  const last = line.prices.at(-1)!;
  // What is billed once is billed as the span begins.
  const once = line.schedule.frequency === 'once';
  const stays = line.units.filter((u) => u.to === null || u.to >= to).map((u) => ({ ...u, from, to: null }));
  const span = once ? { from, to: plusDays(from, 1), schedule: { ...line.schedule, anchor: from } } : { from, to };
  return { ...line, ...span, prices: [{ ...last, from }], units: stays };
}

function monthStart(day: LocalDate): LocalDate {
  return `${day.slice(0, 8)}01` as LocalDate;
}

/** The first days of the months of a span. */
export function monthsOf(from: LocalDate, to: LocalDate): LocalDate[] {
  const schedule = { frequency: 'monthly', anchor: monthStart(from) } as const;
  const months: LocalDate[] = [];
  for (let n = 0; periodAt(schedule, n).from < to; n++) months.push(periodAt(schedule, n).from);
  return months;
}
