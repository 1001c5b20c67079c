import { instantAt, unite, weekdayOf, type Instant, type Interval, type LocalDate, type Zone } from '../time';
import type { Hours, WeeklyCalendar } from './calendar';

const DAY = 86_400;

/** What held on `date`: the calendar as it was, where the date was over when it changed. */
function asOf(calendar: WeeklyCalendar, date: LocalDate): WeeklyCalendar {
  const { earlier } = calendar;
  return earlier && instantAt(date, 1440, earlier.calendar.zone) <= earlier.until ? asOf(earlier.calendar, date) : calendar;
}

/** The hours that hold on `date`: its own where the calendar lists it, else its weekday's. */
export function hoursOn(changing: WeeklyCalendar, date: LocalDate): readonly Hours[] {
  const calendar = asOf(changing, date);
  return calendar.dates[date] ?? calendar.week[weekdayOf(date) - 1] ?? [];
}

/** Whether the calendar lists `date` with no hours at all. */
export function isHoliday(calendar: WeeklyCalendar, date: LocalDate): boolean {
  return asOf(calendar, date).dates[date]?.length === 0;
}

/** Working time as instants on the dates from `from` up to but not including `to`, united; each instant by what held then. */
export function workingIntervals(calendar: WeeklyCalendar, from: LocalDate, to: LocalDate): Interval[] {
  const { earlier } = calendar;
  const now = intervalsOf(calendar, from, to);
  if (!earlier) return now;
  const before = workingIntervals(earlier.calendar, from, to).map((i) => ({ ...i, to: Math.min(i.to, earlier.until) as Instant }));
  return unite([...before, ...now.map((i) => ({ ...i, from: Math.max(i.from, earlier.until) as Instant }))]);
}

function intervalsOf(calendar: WeeklyCalendar, from: LocalDate, to: LocalDate): Interval[] {
  const found: Interval[] = [];
  const last = epochDay(to);
  let midnight = instantAt(from, 0, calendar.zone);
  for (let day = epochDay(from); day < last; day++) {
    const date = dateOfEpochDay(day);
    const nextMidnight = instantAt(dateOfEpochDay(day + 1), 0, calendar.zone);
    const hours = calendar.dates[date] ?? calendar.week[(((day + 3) % 7) + 7) % 7] ?? [];
    for (const { from: a, to: b } of hours)
      found.push({
        from: onDate({ date, minute: a, midnight, nextMidnight, zone: calendar.zone }),
        to: onDate({ date, minute: b, midnight, nextMidnight, zone: calendar.zone }),
      });
    midnight = nextMidnight;
  }
  return unite(found);
}

/** On a date of 24 hours the wall clock runs evenly from midnight; only on others must the zone be asked. */
function onDate({
  date,
  minute,
  midnight,
  nextMidnight,
  zone,
}: {
  readonly date: LocalDate;
  readonly minute: number;
  readonly midnight: Instant;
  readonly nextMidnight: Instant;
  readonly zone: Zone;
}): Instant {
  return nextMidnight - midnight === DAY ? ((midnight + minute * 60) as Instant) : instantAt(date, minute, zone);
}

export function epochDay(date: LocalDate): number {
  return Date.parse(`${date}T00:00:00Z`) / (DAY * 1000);
}

export function dateOfEpochDay(day: number): LocalDate {
  return new Date(day * DAY * 1000).toISOString().slice(0, 10) as LocalDate;
}
