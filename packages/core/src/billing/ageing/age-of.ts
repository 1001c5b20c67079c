import { daysBetween, type LocalDate } from '../../ground';

/** How long an invoice is overdue, in the columns of an ageing. */
export const AGES = ['not due', '1 to 30', '31 to 60', '61 to 90', 'over 90'] as const;
export type Age = (typeof AGES)[number];

/** The last day of each age, in whole days after the day it was due; the last age has none. */
const LAST_DAYS = [0, 30, 60, 90] as const;

/** Source: docs/calculations.md, Ageing and cash expected. */
export function ageOf(dueOn: LocalDate, today: LocalDate): Age {
  const days = daysBetween(dueOn, today);
  const at = LAST_DAYS.findIndex((last) => days <= last);
  return AGES[at === -1 ? AGES.length - 1 : at]!;
}
