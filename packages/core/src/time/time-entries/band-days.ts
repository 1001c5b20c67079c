import {
  dateOf,
  hoursOn,
  type Instant,
  instantAt,
  type Interval,
  isHoliday,
  type LocalDate,
  plusDays,
  type TimeBand,
  type WeeklyCalendar,
} from '../../ground';

export interface Stretch extends Interval {
  readonly band: TimeBand;
}

/** A date of a calendar from midnight to midnight, with its time bands in order. */
export interface BandDay extends Interval {
  readonly date: LocalDate;
  readonly bands: readonly Stretch[];
}

const DAY = 86_400;
/** Dates by the day in UTC that they touch; a calendar never changes, so they are worked out once. */
const known = new WeakMap<WeeklyCalendar, Map<number, readonly BandDay[]>>();

/** The dates of a calendar that touch a day in UTC, in order. @param day whole days since the epoch */
export function bandDays(calendar: WeeklyCalendar, day: number): readonly BandDay[] {
  let days = known.get(calendar);
  if (!days) known.set(calendar, (days = new Map()));
  let found = days.get(day);
  if (!found) days.set(day, (found = workOut(calendar, day)));
  return found;
}

/** The date of a calendar on which an instant falls. */
export function bandDayAt(calendar: WeeklyCalendar, at: Instant): BandDay {
  return bandDays(calendar, Math.floor(at / DAY)).find((d) => d.from <= at && at < d.to)!;
}

function workOut(calendar: WeeklyCalendar, day: number): BandDay[] {
  const end = (day + 1) * DAY;
  const found: BandDay[] = [];
  for (let date = dateOf((day * DAY) as Instant, calendar.zone); ; date = plusDays(date, 1)) {
    const from = instantAt(date, 0, calendar.zone);
    if (from >= end) return found;
    found.push({ date, from, to: instantAt(plusDays(date, 1), 0, calendar.zone), bands: bandsOf(calendar, date) });
  }
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
