import { dateOf, hoursOn, type Instant, instantAt, plusDays, plusSeconds, wallMinuteOf, type WeeklyCalendar } from '../../ground';

/** Beyond this many dates a calendar without working hours is given up on. */
const MOST_DATES = 3660;
const MINUTE = 60;

/**
 * When a resolved ticket closes without a word from the client: at the same local time on the n-th later
 * date with working hours. Source: docs/calculations.md, Closing by itself.
 * @param dates how many later dates with working hours, at least 1
 * @returns undefined where the calendar has no such date within ten years
 */
export function closesAt(calendar: WeeklyCalendar, resolvedAt: Instant, dates: number): Instant | undefined {
  const minute = wallMinuteOf(resolvedAt, calendar.zone);
  let date = dateOf(resolvedAt, calendar.zone);
  let left = dates;
  for (let i = 0; i < MOST_DATES; i++) {
    date = plusDays(date, 1);
    if (hoursOn(calendar, date).length > 0) left--;
    if (left === 0) return plusSeconds(instantAt(date, minute, calendar.zone), resolvedAt % MINUTE);
  }
  return undefined;
}
