import Holidays from 'date-holidays';
import type { LocalDate } from '@core/ground';

const known = new Map<string, Readonly<Record<string, string>>>();

/** Public holidays of a region such as "IE" or "US-NY" in the years of two dates, each date with its name. */
export function publicHolidays(region: string | null, from: LocalDate, to: LocalDate): Readonly<Record<string, string>> {
  if (!region) return {};
  const years = [...new Set([Number(from.slice(0, 4)), Number(to.slice(0, 4))])];
  return Object.assign({}, ...years.map((year) => ofYear(region, year))) as Readonly<Record<string, string>>;
}

function ofYear(region: string, year: number): Readonly<Record<string, string>> {
  const key = `${region} ${year}`;
  let days = known.get(key);
  if (!days) {
    const [country, part] = region.split('-') as [string, string | undefined];
    const of = part ? new Holidays(country, part) : new Holidays(country);
    days = Object.fromEntries(
      of
        .getHolidays(year, 'en')
        .filter((h) => h.type === 'public')
        .map((h) => [h.date.slice(0, 10), h.name]),
    );
    known.set(key, days);
  }
  return days;
}

/** Whether there is a list of public holidays for a region. */
export function isHolidayRegion(region: string): boolean {
  const [country, part] = region.split('-') as [string, string | undefined];
  const all = new Holidays();
  return country in all.getCountries('en') && (!part || part in (all.getStates(country, 'en') ?? {}));
}
