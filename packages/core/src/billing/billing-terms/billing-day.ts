import { type Frequency, periodOf, type Schedule } from '../../contracts';
import { type LocalDate, plusDays, weekdayOf } from '../../ground';
import type { BilledEvery, BillingRhythm } from './billing-terms';

const FREQUENCY: Readonly<Record<Exclude<BilledEvery, 'run' | 'week'>, Frequency>> = {
  month: 'monthly',
  quarter: 'quarterly',
  year: 'yearly',
};
/** For each month of a quarter, one of 31 days that is the same month of another quarter. */
const LONG_MONTH_OF_QUARTER = [1, 5, 3];

/**
 * The newest billing day of a rhythm up to a day: as of it a run on that day bills. What is billed with every run is billed
 * as of the day itself. Source: docs/calculations.md, When and on how many invoices.
 * @throws Error where the rhythm lacks the day or month that it is on
 */
export function billingDay(rhythm: BillingRhythm, on: LocalDate): LocalDate {
  const { every, weekday } = rhythm;
  if (every === 'run') return on;
  if (every !== 'week') return periodOf(scheduleOf(rhythm, FREQUENCY[every]), on).from;
  if (weekday === null) throw new Error('a week is billed on no day');
  return plusDays(on, -((weekdayOf(on) - weekday + 7) % 7));
}

/** The first billing day after a day; of what is billed with every run, the next day. */
export function nextBillingDay(rhythm: BillingRhythm, after: LocalDate): LocalDate {
  const { every } = rhythm;
  if (every === 'run') return plusDays(after, 1);
  if (every === 'week') return plusDays(billingDay(rhythm, after), 7);
  return periodOf(scheduleOf(rhythm, FREQUENCY[every]), after).to;
}

/** The periods that begin on its billing days. */
function scheduleOf({ every, day, month }: BillingRhythm, frequency: Frequency): Schedule {
  if (day === null || (every !== 'month' && month === null)) throw new Error(`a ${every} is billed on no day`);
  const inYear = every === 'year' ? month! : every === 'quarter' ? LONG_MONTH_OF_QUARTER[month! - 1]! : 1;
  return { frequency, anchor: `2000-${two(inYear)}-${two(day)}` as LocalDate };
}

const two = (n: number) => String(n).padStart(2, '0');
