import { plusDays, weekdayOf, type LocalDate } from '@core/ground';

/** A span of dates, both included. */
export interface DateSpan {
  readonly from: string;
  readonly to: string;
}

/** The first and last day of the month that lies `back` months before that of a date. */
export function monthOf(today: string, back: number): DateSpan {
  const [year, month] = today.split('-').map(Number) as [number, number];
  const day = (y: number, m: number, d: number) => new Date(Date.UTC(y, m, d)).toISOString().slice(0, 10);
  return { from: day(year, month - 1 - back, 1), to: day(year, month - back, 0) };
}

/** Monday to Sunday of the week that lies `back` weeks before that of a date. */
export function weekOf(today: string, back: number): DateSpan {
  const monday = plusDays(today as LocalDate, 1 - weekdayOf(today as LocalDate) - back * 7);
  return { from: monday, to: plusDays(monday, 6) };
}

/** The spans that reports offer by name. */
export function namedSpans(today: string): readonly (DateSpan & { readonly name: string })[] {
  return [
    { name: 'this week', ...weekOf(today, 0) },
    { name: 'last week', ...weekOf(today, 1) },
    { name: 'this month', ...monthOf(today, 0) },
    { name: 'last month', ...monthOf(today, 1) },
  ];
}
