import type { Instant, LocalDate } from '../time';
import type { WeeklyCalendar } from './calendar';
import { dateOfEpochDay, epochDay, workingIntervals } from './working-intervals';

const DAY = 86_400;
/** Days beyond those asked for, so that the next questions need no growth. */
const MARGIN = 60;
/** 2999-12-31: where no working time is found by then, there is none. */
const LAST_DAY = 376_199;

/**
 * Working intervals of a span of days with running totals, so that a question about any two instants is
 * two binary searches. Grows when asked beyond its ends.
 */
export class WorkingTimeIndex {
  private starts: number[] = [];
  private ends: number[] = [];
  private before: number[] = [];
  private firstDay = 0;
  private lastDay = -1;

  constructor(private readonly calendar: WeeklyCalendar) {}

  /** Working seconds before `t`, counted from a start that is the same for all calls between growths. */
  secondsBefore(t: Instant): number {
    const i = this.lastStartingAtOrBefore(t);
    if (i < 0) return 0;
    return this.before[i]! + Math.min(t, this.ends[i]!) - this.starts[i]!;
  }

  /** The earliest instant at or after `from` by which `seconds` more were worked, or undefined where there is none before the year 3000. */
  after(from: Instant, seconds: number): Instant | undefined {
    if (seconds <= 0) return from;
    for (;;) {
      const wanted = this.secondsBefore(from) + seconds;
      const i = this.firstReaching(wanted);
      if (i < this.starts.length) return (this.starts[i]! + wanted - this.before[i]!) as Instant;
      if (this.lastDay >= LAST_DAY || !this.hasWorkAfter(this.lastDay)) return undefined;
      this.cover(this.firstDay, this.lastDay + Math.max(MARGIN, this.lastDay - this.firstDay));
    }
  }

  /** Makes sure that both instants lie inside the span. */
  reach(from: Instant, to: Instant): void {
    const a = Math.floor(from / DAY);
    const b = Math.floor(to / DAY);
    if (this.lastDay < this.firstDay) this.cover(a - MARGIN, b + MARGIN);
    else if (a - 1 < this.firstDay || b + 1 > this.lastDay)
      this.cover(Math.min(a - MARGIN, this.firstDay), Math.max(b + MARGIN, this.lastDay));
  }

  private cover(first: number, last: number): void {
    this.firstDay = first;
    this.lastDay = Math.min(LAST_DAY, last);
    const intervals = workingIntervals(this.calendar, dateOfEpochDay(this.firstDay - 1), dateOfEpochDay(this.lastDay + 2));
    this.starts = intervals.map((i) => i.from);
    this.ends = intervals.map((i) => i.to);
    let sum = 0;
    this.before = intervals.map((i) => (sum += i.to - i.from) - (i.to - i.from));
  }

  private hasWorkAfter(day: number): boolean {
    return (
      this.calendar.week.some((hours) => hours.length > 0) ||
      Object.entries(this.calendar.dates).some(([date, hours]) => hours.length > 0 && epochDay(date as LocalDate) >= day)
    );
  }

  private lastStartingAtOrBefore(t: number): number {
    let low = 0;
    let high = this.starts.length;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.starts[middle]! <= t) low = middle + 1;
      else high = middle;
    }
    return low - 1;
  }

  private firstReaching(total: number): number {
    let low = 0;
    let high = this.starts.length;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.before[middle]! + this.ends[middle]! - this.starts[middle]! < total) low = middle + 1;
      else high = middle;
    }
    return low;
  }
}

const indexes = new WeakMap<WeeklyCalendar, WorkingTimeIndex>();

/** The index of a calendar, made at its first use and kept as long as the calendar object lives. */
export function indexOf(calendar: WeeklyCalendar): WorkingTimeIndex {
  let index = indexes.get(calendar);
  if (!index) indexes.set(calendar, (index = new WorkingTimeIndex(calendar)));
  return index;
}
