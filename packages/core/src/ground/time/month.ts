import type { LocalDate } from './local-date';

const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** The month of a date by its name: "November". */
export function monthOf(date: LocalDate): string {
  return MONTHS[Number(date.slice(5, 7)) - 1]!;
}

/** A day as letters say it: "24 November 2026". */
export function sayDay(date: LocalDate): string {
  return `${Number(date.slice(8))} ${monthOf(date)} ${date.slice(0, 4)}`;
}
