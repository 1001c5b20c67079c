import { type Currency, type Explanation, formatMoney, type LocalDate, type Money, money, plusDays, step } from '../../ground';
import { type Period, periodAt, periodIndex } from './periods';
import type { RecurringLine } from './recurring-line';
import type { PeriodWorth } from './period-worth';
import { worthOfPeriod } from './worth-of-period';

/** How many periods before the newest one due are corrected. */
export const TRUE_UP_PERIODS = 12;

/** What counts as billed for a period of a line: of documents, each with its sign, and what was waived. */
export interface CountedAsBilled {
  /** The period's first day. */
  readonly from: LocalDate;
  readonly net: Money;
}

/** A difference that a run bills, up or down. */
export interface DuePeriod {
  /** A period with nothing billed yet is new, whatever its age. */
  readonly is: 'new' | 'true-up';
  readonly period: Period;
  readonly amount: Money;
  readonly worth: PeriodWorth;
  readonly billed: Money;
  readonly why: Explanation;
}

export interface BilledLine {
  readonly due: readonly DuePeriod[];
  /** Periods that differ and lie before those that are corrected. */
  readonly outOfReach: readonly DuePeriod[];
}

/**
 * What a run at a date bills of a line: for each period due by then what it is worth on the facts known now, less what counts
 * as billed. A second run on the same facts bills nothing. Source: docs/calculations.md, Recurring lines.
 */
export function billLine(
  line: RecurringLine,
  { at, billed, currency }: { readonly at: LocalDate; readonly billed: readonly CountedAsBilled[]; readonly currency: Currency },
): BilledLine {
  const { schedule } = line;
  const counted = new Map<number, number>();
  for (const { from, net } of billed) {
    const n = periodIndex(schedule, from);
    counted.set(n, (counted.get(n) ?? 0) + net.minor);
  }
  const newest = newestDue(line, at);
  // What was billed was due then, also where the lead has become shorter.
  const indexes = new Set(counted.keys());
  for (let n = periodIndex(schedule, line.from); n <= newest && !isOver(line, periodAt(schedule, n)); n++) indexes.add(n);
  const due: DuePeriod[] = [];
  const outOfReach: DuePeriod[] = [];
  for (const n of [...indexes].sort((a, b) => a - b)) {
    const period = periodAt(schedule, n);
    const worth = worthOfPeriod(line, period, currency);
    const before = money(counted.get(n) ?? 0, currency);
    const amount = money(worth.amount.minor - before.minor, currency);
    if (amount.minor === 0) continue;
    const is = counted.has(n) ? ('true-up' as const) : ('new' as const);
    const found = { is, period, amount, worth, billed: before, why: whyOf(line, { is, period, worth, before, amount }) };
    (is === 'new' || n >= newest - TRUE_UP_PERIODS ? due : outOfReach).push(found);
  }
  return { due, outOfReach };
}

/** The index of the last period that is due at a date: in advance on its first day less the lead, in arrears on the day after it. */
export function newestDue({ schedule, paid, leadDays }: RecurringLine, at: LocalDate): number {
  const newest = paid === 'in advance' ? periodIndex(schedule, plusDays(at, leadDays)) : periodIndex(schedule, at) - 1;
  // What is billed once has no later period from which its correction would fall out of reach.
  return schedule.frequency === 'once' ? Math.min(newest, 0) : newest;
}

/** The first day after another on which a period of a line is due that was not due before. */
export function nextDueOn(line: RecurringLine, after: LocalDate): LocalDate {
  const { schedule, paid, leadDays } = line;
  const next = periodAt(schedule, newestDue(line, after) + 1);
  return paid === 'in advance' ? plusDays(next.from, -leadDays) : next.to;
}

function isOver(line: RecurringLine, period: Period): boolean {
  return line.to !== null && line.to <= period.from;
}

function whyOf(
  line: RecurringLine,
  { is, period, worth, before, amount }: Pick<DuePeriod, 'is' | 'period' | 'worth' | 'amount'> & { readonly before: Money },
): Explanation {
  if (is === 'new') return worth.why;
  return [
    ...worth.why,
    ...changesIn(line, period),
    step('counts as billed', formatMoney(before)),
    step('the difference', formatMoney(amount)),
  ];
}

/** Who or what came and went within a period, with the day. */
function changesIn(line: RecurringLine, { from, to }: Period): Explanation {
  const inside = (day: LocalDate | null): day is LocalDate => day !== null && day > from && day < to;
  return line.units.flatMap((unit) => [
    ...(inside(unit.from) ? [step(`${unit.name} joined`, unit.from)] : []),
    ...(inside(unit.to) ? [step(`${unit.name} left, last day`, plusDays(unit.to, -1))] : []),
  ]);
}
