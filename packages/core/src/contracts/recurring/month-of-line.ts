import { Big } from 'big.js';
import { type Currency, type LocalDate, type Money, roundToMinor } from '../../ground';
import { MONTHS_OF, periodAt, periodIndex } from './periods';
import type { RecurringLine } from './recurring-line';
import { worthOfPeriod } from './worth-of-period';

/** What a line makes and costs in a month. */
export interface MonthOfLine {
  readonly worth: Money;
  /** Null where nobody said what one costs. */
  readonly cost: Money | null;
}

/**
 * What a line makes in a month as it stands on a day: a whole period with what is on it that day, brought to a month; of a
 * meter, its last whole period. What is billed once makes nothing. Source: docs/calculations.md, Recurring lines.
 */
export function monthOfLine(line: RecurringLine, today: LocalDate, currency: Currency): MonthOfLine {
  const { schedule, counted } = line;
  const { frequency } = schedule;
  const n = periodIndex(schedule, today);
  const isMetered = counted === 'metered';
  // As on that day: first-day proration of a period that begins with it.
  const asToday = { ...line, proration: 'first day' as const, from: today > line.from ? today : line.from };
  const { amount, cost } = worthOfPeriod(isMetered ? line : asToday, periodAt(schedule, isMetered ? n - 1 : n), currency);
  const ofMonth = (period: Money) => (frequency === 'once' ? { ...period, minor: 0 } : aMonth(period, MONTHS_OF[frequency]));
  return { worth: ofMonth(amount), cost: cost && ofMonth(cost) };
}

function aMonth({ minor, currency }: Money, months: number): Money {
  const scale = roundToMinor(new Big(1), 1, currency).minor;
  return roundToMinor(new Big(minor).div(scale), months, currency);
}
