import { daysBetween, type LocalDate, plusDays } from '../../ground';

export const FREQUENCIES = ['monthly', 'quarterly', 'yearly'] as const;
export type Frequency = (typeof FREQUENCIES)[number];

/** How many months a period has. */
export const MONTHS_OF: Readonly<Record<Frequency, number>> = { monthly: 1, quarterly: 3, yearly: 12 };

export const LINE_FREQUENCIES = [...FREQUENCIES, 'once'] as const;
/** How often a line is billed. What is billed once has one period, its first day. */
export type LineFrequency = (typeof LINE_FREQUENCIES)[number];

/** How often periods begin, and a date on which one does: the contract's start, or a first of January for the calendar's own. */
export interface Schedule {
  readonly frequency: LineFrequency;
  readonly anchor: LocalDate;
}

/** Half open: `to` is the first day after it. */
export interface Period {
  readonly from: LocalDate;
  readonly to: LocalDate;
}

/** A date on which a month, a quarter and a year of the calendar begin. */
export const CALENDAR_ANCHOR = '2000-01-01' as LocalDate;

/**
 * The nth period from that of the anchor, which is 0. An anchor day past a month's end is its last day.
 * Source: docs/calculations.md, Recurring lines.
 */
export function periodAt({ frequency, anchor }: Schedule, n: number): Period {
  if (frequency === 'once') return { from: plusDays(anchor, n), to: plusDays(anchor, n + 1) };
  const step = MONTHS_OF[frequency];
  return { from: monthsLater(anchor, n * step), to: monthsLater(anchor, (n + 1) * step) };
}

/** Which period a date lies in, counted from that of the anchor. */
export function periodIndex(schedule: Schedule, date: LocalDate): number {
  const { frequency, anchor } = schedule;
  if (frequency === 'once') return daysBetween(anchor, date);
  const months = monthOf(date) - monthOf(anchor);
  const n = Math.floor(months / MONTHS_OF[frequency]);
  // Within the month of its first day, a date before that day belongs to the period before.
  return date < periodAt(schedule, n).from ? n - 1 : n;
}

export function periodOf(schedule: Schedule, date: LocalDate): Period {
  return periodAt(schedule, periodIndex(schedule, date));
}

/** Months since the year 0. */
function monthOf(date: LocalDate): number {
  return Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7)) - 1;
}

function monthsLater(date: LocalDate, months: number): LocalDate {
  const all = monthOf(date) + months;
  const [year, month] = [Math.floor(all / 12), all % 12];
  const day = Math.min(Number(date.slice(8)), daysIn(year, month));
  return `${String(year).padStart(4, '0')}-${two(month + 1)}-${two(day)}` as LocalDate;
}

const LENGTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
function daysIn(year: number, month: number): number {
  const isLeap = year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
  return month === 1 && isLeap ? 29 : LENGTHS[month]!;
}

function two(n: number): string {
  return String(n).padStart(2, '0');
}
