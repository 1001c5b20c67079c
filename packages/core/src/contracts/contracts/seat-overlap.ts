import type { LocalDate } from '../../ground';

/** From a day to the first day without. */
export interface Assigned {
  readonly from: LocalDate;
  readonly to: LocalDate | null;
}

/** Whether it has a day, said by its last day. */
export function isOnDay({ startsOn, lastDay }: { readonly startsOn: string; readonly lastDay: string | null }, day: string): boolean {
  return startsOn <= day && (lastDay === null || day <= lastDay);
}

/** Of those that stand for one person or device on a line, the first that has a day with a new one. */
export function overlapping<T extends Assigned>(stands: readonly T[], { from, to }: Assigned): T | undefined {
  return stands.find((s) => (to === null || s.from < to) && (s.to === null || from < s.to));
}
