import { Temporal } from 'temporal-polyfill';
import { dateOfDay, dayNumber } from './day-number';
import type { Instant } from './instant';

declare const dateBrand: unique symbol;
declare const zoneBrand: unique symbol;

/** A calendar date without a zone, written YYYY-MM-DD. */
export type LocalDate = string & { readonly [dateBrand]: true };

/** An IANA time zone, such as "Europe/Dublin". */
export type Zone = string & { readonly [zoneBrand]: true };

/** @throws RangeError where `text` is no date of the calendar. */
export function parseLocalDate(text: string): LocalDate {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) throw new RangeError(`not a date: "${text}"; write it as 2026-11-24`);
  return Temporal.PlainDate.from(text, { overflow: 'reject' }).toString() as LocalDate;
}

/** @throws RangeError where the platform knows no such zone. */
export function parseZone(text: string): Zone {
  new Intl.DateTimeFormat('en', { timeZone: text });
  return text as Zone;
}

/** The local date on which `instant` falls in `zone`. */
export function dateOf(instant: Instant, zone: Zone): LocalDate {
  return zoned(instant, zone).toPlainDate().toString() as LocalDate;
}

/** As dateOf, of many instants in one zone: where a date begins and ends is worked out once for all of them. */
export function datesIn(zone: Zone): (instant: Instant) => LocalDate {
  const known = new Map<number, { readonly from: Instant; readonly to: Instant; readonly date: LocalDate }[]>();
  return (instant) => {
    const utcDay = Math.floor(instant / UTC_DAY);
    const spans = known.get(utcDay) ?? [];
    const found = spans.find((s) => s.from <= instant && instant < s.to);
    if (found) return found.date;
    const date = dateOf(instant, zone);
    spans.push({ from: instantAt(date, 0, zone), to: instantAt(date, 1440, zone), date });
    known.set(utcDay, spans);
    return date;
  };
}
const UTC_DAY = 86_400;

/** Minutes since local midnight on the wall clock at `instant` in `zone`, 0 to 1439. */
export function wallMinuteOf(instant: Instant, zone: Zone): number {
  const at = zoned(instant, zone);
  return at.hour * 60 + at.minute;
}

/**
 * The instant at `minute` (0 to 1440) on the wall clock of `date` in `zone`, mapped as Temporal's
 * `compatible` does; 1440 is 00:00 of the next date.
 */
export function instantAt(date: LocalDate, minute: number, zone: Zone): Instant {
  const day = Temporal.PlainDate.from(date);
  const wall =
    minute === 1440 ? day.add({ days: 1 }).toPlainDateTime() : day.toPlainDateTime({ hour: Math.floor(minute / 60), minute: minute % 60 });
  return (wall.toZonedDateTime(zone, { disambiguation: 'compatible' }).epochMilliseconds / 1000) as Instant;
}

/** The date `days` later (earlier where negative). */
export function plusDays(date: LocalDate, days: number): LocalDate {
  return dateOfDay(dayNumber(date) + days);
}

/** Whole days from `from` to `to`, negative where `to` is earlier. */
export function daysBetween(from: LocalDate, to: LocalDate): number {
  return dayNumber(to) - dayNumber(from);
}

/** Day of the week, 1 Monday to 7 Sunday. */
export function weekdayOf(date: LocalDate): number {
  return Temporal.PlainDate.from(date).dayOfWeek;
}

function zoned(instant: Instant, zone: Zone): Temporal.ZonedDateTime {
  return Temporal.Instant.fromEpochMilliseconds(instant * 1000).toZonedDateTimeISO(zone);
}

/** The first day of the month after the one that a date is in. */
export function firstOfNextMonth(date: LocalDate): LocalDate {
  return Temporal.PlainDate.from(date).with({ day: 1 }).add({ months: 1 }).toString() as LocalDate;
}
