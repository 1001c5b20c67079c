import { plusDays, weekdayOf, type LocalDate } from '../../ground';
import { MOST_REPEATS, type Repeat } from './dispatch-wire';

const DAY_STEPS = { day: 1, week: 7, 'two weeks': 14 } as const;

/**
 * The dates of a booking that repeats, the first among them. A month later is the same day of the month, or its last
 * where it has no such day.
 * @param times how often in all, 1 to MOST_REPEATS
 */
export function repeatDays(first: LocalDate, repeat: Repeat, times: number): LocalDate[] {
  if (repeat === 'no') return [first];
  const count = Math.min(times, MOST_REPEATS);
  const days: LocalDate[] = [];
  for (let n = 0, day = first; days.length < count; n++) {
    if (repeat === 'month') days.push(monthsLater(first, n));
    else if (repeat === 'weekday') {
      if (n === 0 || weekdayOf(day) <= 5) days.push(day);
      day = plusDays(day, 1);
    } else days.push(plusDays(first, n * DAY_STEPS[repeat]));
  }
  return days;
}

function monthsLater(date: LocalDate, months: number): LocalDate {
  const [year, month, day] = date.split('-').map(Number) as [number, number, number];
  const index = year * 12 + month - 1 + months;
  const [y, m] = [Math.floor(index / 12), (index % 12) + 1];
  const last = new Date(Date.UTC(y, m, 0)).getUTCDate();
  return `${y}-${String(m).padStart(2, '0')}-${String(Math.min(day, last)).padStart(2, '0')}` as LocalDate;
}
