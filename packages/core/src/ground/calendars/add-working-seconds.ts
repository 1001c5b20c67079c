import { plusSeconds, type Instant } from '../time';
import type { WorkCalendar } from './calendar';
import { indexOf } from './working-time-index';

/**
 * The earliest instant t ≥ from with workingSeconds(from, t) = seconds, or 'never' where no working time
 * is left (the calendar ends before the year 3000). Source: docs/calculations.md, Work calendar.
 * @param seconds whole, not negative
 */
export function addWorkingSeconds(calendar: WorkCalendar, from: Instant, seconds: number): Instant | 'never' {
  if (!Number.isSafeInteger(seconds) || seconds < 0) throw new RangeError(`seconds must be whole and not negative: ${seconds}`);
  if (calendar.kind === 'round-the-clock') return plusSeconds(from, seconds);
  const index = indexOf(calendar);
  index.reach(from, from);
  return index.after(from, seconds) ?? 'never';
}
