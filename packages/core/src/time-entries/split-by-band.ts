import { hoursOn, isHoliday, type WeeklyCalendar } from '../calendars';
import { dateOf, instantAt, plusDays, type Instant, type LocalDate } from '../time';
import type { TimeBand } from './rate-card';

export interface Stretch {
  readonly from: Instant;
  readonly to: Instant;
  readonly band: TimeBand;
}

/**
 * Splits a span where the time band changes on the provider's calendar, in time order; neighbours of one
 * band are one stretch, also across midnight. Holiday: all of a date the calendar lists with no hours;
 * out of hours: all else outside its hours. Source: calculations.md 5.1.
 */
export function splitByBand(calendar: WeeklyCalendar, from: Instant, to: Instant): Stretch[] {
  const out: Stretch[] = [];
  for (let date = dateOf(from, calendar.zone); ; date = plusDays(date, 1)) {
    const midnight = instantAt(date, 0, calendar.zone);
    if (midnight >= to) break;
    for (const stretch of bandsOf(calendar, date)) {
      const a = Math.max(from, stretch.from) as Instant;
      const b = Math.min(to, stretch.to) as Instant;
      if (a >= b) continue;
      const last = out.at(-1);
      if (last?.band === stretch.band) out[out.length - 1] = { ...last, to: b };
      else out.push({ from: a, to: b, band: stretch.band });
    }
  }
  return out;
}

function bandsOf(calendar: WeeklyCalendar, date: LocalDate): Stretch[] {
  const start = instantAt(date, 0, calendar.zone);
  const end = instantAt(plusDays(date, 1), 0, calendar.zone);
  if (isHoliday(calendar, date)) return [{ from: start, to: end, band: 'holiday' }];
  const out: Stretch[] = [];
  let at = start;
  for (const hours of [...hoursOn(calendar, date)].sort((a, b) => a.from - b.from)) {
    const a = Math.max(at, instantAt(date, hours.from, calendar.zone)) as Instant;
    const b = instantAt(date, hours.to, calendar.zone);
    if (b <= a) continue;
    if (a > at) out.push({ from: at, to: a, band: 'out of hours' });
    out.push({ from: a, to: b, band: 'working hours' });
    at = b;
  }
  if (at < end) out.push({ from: at, to: end, band: 'out of hours' });
  return out;
}
