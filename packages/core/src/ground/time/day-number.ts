import type { LocalDate } from './local-date';

/** Days from the first of March of the year 0 to 1 January 1970. */
const EPOCH = 719_468;
const ERA = 146_097;

/** A date as whole days since 1970-01-01, negative before (Hinnant, Chrono-compatible low-level date algorithms, 2013). */
export function dayNumber(date: LocalDate): number {
  const [year, month, day] = [Number(date.slice(0, 4)), Number(date.slice(5, 7)), Number(date.slice(8, 10))];
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const ofEra = y - era * 400;
  const ofYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  return era * ERA + ofEra * 365 + Math.floor(ofEra / 4) - Math.floor(ofEra / 100) + ofYear - EPOCH;
}

/** The date of a day number: the inverse of dayNumber, for the years 0 to 9999. */
export function dateOfDay(number: number): LocalDate {
  const days = number + EPOCH;
  const era = Math.floor(days / ERA);
  const ofEra = days - era * ERA;
  const year = Math.floor((ofEra - Math.floor(ofEra / 1460) + Math.floor(ofEra / 36_524) - Math.floor(ofEra / (ERA - 1))) / 365);
  const ofYear = ofEra - (365 * year + Math.floor(year / 4) - Math.floor(year / 100));
  const m = Math.floor((5 * ofYear + 2) / 153);
  const day = ofYear - Math.floor((153 * m + 2) / 5) + 1;
  const month = m < 10 ? m + 3 : m - 9;
  const full = year + era * 400 + (month <= 2 ? 1 : 0);
  return `${String(full).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}` as LocalDate;
}
