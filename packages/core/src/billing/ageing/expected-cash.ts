import { daysBetween, type LocalDate, type Money, money, plusDays, weekdayOf } from '../../ground';

/** How a client pays: so many days after the day an invoice is due, by so many that were paid. */
export interface Habit {
  readonly days: number;
  readonly of: number;
}

/** From so many paid invoices on, how a client paid says how it will; with fewer, how all clients paid. */
export const LEAST_FOR_HABIT = 3;

/**
 * The middle of how many days after they were due invoices were paid; of an even number, the lower of both.
 * @returns undefined where none was paid
 */
export function habitOf(daysLate: readonly number[]): Habit | undefined {
  if (!daysLate.length) return undefined;
  const sorted = daysLate.toSorted((a, b) => a - b);
  return { days: sorted[Math.floor((sorted.length - 1) / 2)]!, of: sorted.length };
}

export interface ToCome {
  readonly left: Money;
  readonly dueOn: LocalDate;
  readonly clientId: string;
}

export interface CashExpected {
  readonly weeks: readonly { readonly from: LocalDate; readonly amount: Money; readonly invoices: number }[];
  /** Later than the weeks that are shown. */
  readonly later: Money;
  /** The day on which their clients pay as a rule has passed. */
  readonly unknown: { readonly amount: Money; readonly invoices: number };
}

export interface Foreseeing {
  readonly today: LocalDate;
  readonly weeks: number;
  /** Days after the due day on which a client pays as a rule. */
  readonly habit: (clientId: string) => number;
}

/** What is left of invoices by the week in which it is expected: on the day it is due and as many days later as its client pays as a rule. */
export function expectedCash(invoices: readonly ToCome[], { today, weeks, habit }: Foreseeing, currency: Money['currency']): CashExpected {
  const first = plusDays(today, 1 - weekdayOf(today));
  const sums = Array.from({ length: weeks }, () => ({ minor: 0, invoices: 0 }));
  const unknown = { minor: 0, invoices: 0 };
  let later = 0;
  for (const { left, dueOn, clientId } of invoices) {
    const day = plusDays(dueOn, habit(clientId));
    const week = Math.floor(daysBetween(first, day) / 7);
    if (day < today) {
      unknown.minor += left.minor;
      unknown.invoices++;
    } else if (week >= weeks) later += left.minor;
    else {
      sums[week]!.minor += left.minor;
      sums[week]!.invoices++;
    }
  }
  return {
    weeks: sums.map((s, n) => ({ from: plusDays(first, 7 * n), amount: money(s.minor, currency), invoices: s.invoices })),
    later: money(later, currency),
    unknown: { amount: money(unknown.minor, currency), invoices: unknown.invoices },
  };
}
