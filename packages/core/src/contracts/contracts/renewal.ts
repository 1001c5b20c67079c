import { type LocalDate, plusDays } from '../../ground';
import { periodAt } from '../recurring';

export const RENEWALS = ['ends', 'goes on'] as const;
/** What becomes of a contract with an end: it ends then, or goes on for another term unless somebody gave notice. */
export type Renewal = (typeof RENEWALS)[number];

/** The last day on which notice can be given of what ends. @param to the first day without */
export function noticeBy(to: LocalDate, noticeDays: number): LocalDate {
  return plusDays(to, -1 - noticeDays);
}

/** The first day without, once it has gone on for so many whole terms that it holds on a day. @param termMonths above 0 */
export function goesOnUntil(to: LocalDate, { termMonths, on }: { readonly termMonths: number; readonly on: LocalDate }): LocalDate {
  const terms = { frequency: 'monthly', anchor: to } as const;
  let n = 0;
  while (periodAt(terms, n).from <= on) n += termMonths;
  return periodAt(terms, n).from;
}

/** How many days before the last day for notice account managers are told that it comes. */
export const TOLD_BEFORE_NOTICE = 30;
