import { Big } from 'big.js';
import { type Currency, type DecimalText, type LocalDate, majorOf, type Money, money, roundToMinor } from '../../ground';
import { MONTHS_OF, periodAt, periodIndex } from './periods';
import type { RecurringLine } from './recurring-line';
import { worthOfPeriod } from './worth-of-period';

/** What a line makes in a month, and what of that is left after what it costs. */
export interface MonthOfLine {
  readonly worth: Money;
  /** Null where nobody said what one costs, or it makes nothing. */
  readonly margin: { readonly left: Money; readonly percent: DecimalText } | null;
}

/**
 * What a line makes in a month as it stands on a day: a whole period with what is on it that day, brought to a month; of a
 * meter, its last whole period. What is billed once makes nothing. Source: docs/calculations.md, Recurring lines.
 */
export function monthOfLine(line: RecurringLine, today: LocalDate, currency: Currency): MonthOfLine {
  const { schedule, counted } = line;
  const { frequency } = schedule;
  if (frequency === 'once') return { worth: money(0, currency), margin: null };
  const n = periodIndex(schedule, today);
  const isMetered = counted === 'metered';
  // As on that day: first-day proration of a period that begins with it.
  const asToday = { ...line, proration: 'first day' as const, from: today > line.from ? today : line.from };
  const { amount, cost } = worthOfPeriod(isMetered ? line : asToday, periodAt(schedule, isMetered ? n - 1 : n), currency);
  const ofMonth = (period: Money) => roundToMinor(majorOf(period), MONTHS_OF[frequency], currency);
  const worth = ofMonth(amount);
  return { worth, margin: cost === null || worth.minor === 0 ? null : marginOf(worth, ofMonth(cost)) };
}

/** Percent of the price, to one place. Source: docs/calculations.md, Recurring lines. */
function marginOf(worth: Money, cost: Money): NonNullable<MonthOfLine['margin']> {
  const left = money(worth.minor - cost.minor, worth.currency);
  return { left, percent: new Big(left.minor).times(100).div(worth.minor).round(1).toFixed() };
}
