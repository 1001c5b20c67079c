import type { Instant, LocalDate, WeeklyCalendar } from '../../ground';
import { bandDays, type Stretch } from './band-days';

const DAY = 86_400;

/**
 * Splits a span where the time band changes on the provider's calendar, in time order; neighbours of one
 * band are one stretch, also across midnight. Holiday: all of a date the calendar lists with no hours;
 * out of hours: all else outside its hours. Source: docs/calculations.md, Time bands.
 */
export function splitByBand(calendar: WeeklyCalendar, from: Instant, to: Instant): Stretch[] {
  const out: Stretch[] = [];
  let seen: LocalDate | undefined;
  for (let day = Math.floor(from / DAY); day * DAY < to; day++)
    for (const { date, bands } of bandDays(calendar, day)) {
      if (seen !== undefined && date <= seen) continue;
      seen = date;
      for (const stretch of bands) {
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
