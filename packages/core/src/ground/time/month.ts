import type { LocalDate } from './local-date';

const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** The month of a date by its name: "November". */
export function monthOf(date: LocalDate): string {
  return MONTHS[Number(date.slice(5, 7)) - 1]!;
}
