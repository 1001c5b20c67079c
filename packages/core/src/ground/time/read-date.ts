import { Temporal } from 'temporal-polyfill';
import { daysBetween, type LocalDate, plusDays, weekdayOf } from './local-date';

/** The most characters of a date that is typed. */
const MOST = 40;
const MONTHS = ['january', 'february', 'march', 'april', 'may', 'june', 'july', 'august', 'september', 'october', 'november', 'december'];
const WEEKDAYS = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];
const NAMED: Readonly<Record<string, number>> = { today: 0, tomorrow: 1, yesterday: -1 };
/** Letters from which a month or a weekday is known by its beginning. */
const LEAST_LETTERS = 3;

/** How people write a date, tried from the top. Each says the date, or undefined where what is written is none. */
const WAYS: readonly (readonly [RegExp, (found: readonly string[], today: LocalDate) => LocalDate | undefined])[] = [
  [/^(\d{4})-(\d{1,2})-(\d{1,2})$/, ([year, month, day]) => dateFrom(Number(year), Number(month), Number(day))],
  [/^(today|tomorrow|yesterday)$/, ([name], today) => plusDays(today, NAMED[name!]!)],
  [/^([+-])\s?(\d{1,4})$/, ([sign, days], today) => plusDays(today, Number(`${sign}${days}`))],
  [/^(last |next )?([a-z]{3,9})$/, ([way, name], today) => weekdayFrom(name!, way === 'last ', today)],
  [
    /^(\d{1,2})[./](\d{1,2})(?:[./](\d{4}|\d{2})?)?$/,
    ([day, month, year], today) => dayOf({ day: day!, month: Number(month), year, today }),
  ],
  [
    /^(\d{1,2})\.? ?([a-z]{3,9})(?:,? (\d{4}|\d{2}))?$/,
    ([day, month, year], today) => dayOf({ day: day!, month: monthNamed(month!), year, today }),
  ],
  [/^([a-z]{3,9}) (\d{1,2})(?:,? (\d{4}))?$/, ([month, day, year], today) => dayOf({ day: day!, month: monthNamed(month!), year, today })],
  [/^(\d{1,2})\.?$/, ([day], today) => nearest(today, monthsAround(today, Number(day)))],
];

/**
 * A date as people type it: 2026-12-01, 1.12., 1/12/26, 1 Dec, Dec 1, 24, fri, last mon, tomorrow, +3. The day comes before
 * the month. Without a year it is the nearest such date, without a month the nearest such day, later where two are as near;
 * a weekday is the next one after today.
 * @returns undefined where it is none
 */
export function readDate(typed: string, today: LocalDate): LocalDate | undefined {
  if (typed.length > MOST) return undefined;
  const text = typed.trim().toLowerCase().replace(/\s+/g, ' ').replace('−', '-');
  for (const [pattern, read] of WAYS) {
    const found = pattern.exec(text);
    if (found) return read(found.slice(1), today);
  }
  return undefined;
}

/**
 * A date and a time of day on a wall clock as people type them: "tomorrow 16:30", "1 Dec, 9:00", "16:30", "fri".
 * @param wall what stands there, as YYYY-MM-DDTHH:MM: what is not typed stays as it is there
 */
export function readWall(typed: string, wall: string, today: LocalDate): string | undefined {
  const [, day = '', hour, minute] = /^(.*?)(?:(?:^|[\s,T]+)(\d{1,2}):(\d{2}))?$/s.exec(typed.trim().slice(0, MOST + 1))!;
  const [wallDay, wallTime] = wall.split('T') as [string, string];
  if (!day.trim() && hour === undefined) return undefined;
  const date = day.trim() ? readDate(day.replace(/,\s*$/, ''), today) : (wallDay as LocalDate);
  if (!date || Number(hour) > 23 || Number(minute) > 59) return undefined;
  return `${date}T${hour === undefined ? wallTime : `${hour.padStart(2, '0')}:${minute}`}`;
}

function weekdayFrom(name: string, last: boolean, today: LocalDate): LocalDate | undefined {
  const weekday = begun(WEEKDAYS, name);
  if (weekday === undefined) return undefined;
  const ahead = (weekday - weekdayOf(today) + 7) % 7;
  return plusDays(today, last ? ahead - 7 : ahead || 7);
}

const monthNamed = (name: string): number => begun(MONTHS, name) ?? 0;

/** The place, from 1, of the name that begins like this. */
function begun(names: readonly string[], start: string): number | undefined {
  const at = start.length < LEAST_LETTERS ? -1 : names.findIndex((name) => name.startsWith(start));
  return at < 0 ? undefined : at + 1;
}

function dayOf({
  day,
  month,
  year,
  today,
}: {
  readonly day: string;
  readonly month: number;
  readonly year: string | undefined;
  readonly today: LocalDate;
}): LocalDate | undefined {
  if (year) return dateFrom(Number(year.length === 2 ? `20${year}` : year), month, Number(day));
  const [now] = today.split('-').map(Number) as [number];
  return nearest(
    today,
    [now - 1, now, now + 1].map((y) => dateFrom(y, month, Number(day))),
  );
}

function monthsAround(today: LocalDate, day: number): (LocalDate | undefined)[] {
  const first = Temporal.PlainDate.from(today).with({ day: 1 });
  return [-1, 0, 1].map((months) => {
    const { year, month } = first.add({ months });
    return dateFrom(year, month, day);
  });
}

function nearest(today: LocalDate, dates: readonly (LocalDate | undefined)[]): LocalDate | undefined {
  const away = (date: LocalDate) => Math.abs(daysBetween(today, date));
  return dates.reduce((best, date) => (date && (!best || away(date) <= away(best)) ? date : best), undefined);
}

function dateFrom(year: number, month: number, day: number): LocalDate | undefined {
  try {
    return Temporal.PlainDate.from({ year, month, day }, { overflow: 'reject' }).toString() as LocalDate;
  } catch {
    return undefined;
  }
}
