import { type Interval, type LocalDate, parseCalendar, workingIntervals, type Zone } from '../../ground';

/** When somebody works: hours of the week, other hours on some dates, and dates on which nobody of their region works. */
export interface WorkPattern {
  readonly zone: Zone;
  /** Seven days, Monday first, hours as "08:30-12:00". */
  readonly week: readonly (readonly string[])[];
  /** A shift takes the place of the week's hours on its date, on a public holiday too; no hours at all is a free day. */
  readonly shifts: Readonly<Record<string, readonly string[]>>;
  /** Public holidays by date, each with its name. */
  readonly holidays: Readonly<Record<string, string>>;
}

/** Working time on the dates from `from` up to but not including `to`, united, without regard to time off. */
export function workingTime({ zone, week, shifts, holidays }: WorkPattern, from: LocalDate, to: LocalDate): Interval[] {
  const free = Object.fromEntries(Object.keys(holidays).map((date) => [date, []]));
  return workingIntervals(parseCalendar({ name: 'own', zone, week, dates: { ...free, ...shifts } }), from, to);
}
