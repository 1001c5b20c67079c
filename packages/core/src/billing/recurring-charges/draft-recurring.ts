import { type DuePeriod, type Period } from '../../contracts';
import { daysBetween, type LocalDate, majorOf, monthOf, plusDays } from '../../ground';
import { CHARGE_TEXT, type ChargeDraft } from '../charges';

/** A period of a line as it is to be proposed. @param part tells what was decided of it before apart */
export function draftRecurring(
  due: DuePeriod,
  { line, part, details }: { readonly line: string; readonly part: number; readonly details: string | null },
): ChargeDraft {
  const { is, period, amount, worth, why } = due;
  // What is billed for the first time is so many at a price; a difference is an amount.
  const isEven = is === 'new' && worth.quantity !== '1';
  const gives = amount.minor < 0;
  return {
    cause: 'recurring',
    part,
    kind: 'recurring',
    description: `${line}, ${sayPeriod(period)}${is === 'true-up' ? ', difference' : ''}`.slice(0, CHARGE_TEXT),
    details,
    quantity: isEven ? worth.quantity : gives ? '-1' : '1',
    unit: 'C62',
    unitPrice: isEven ? worth.price : majorOf({ ...amount, minor: Math.abs(amount.minor) }).toFixed(),
    net: amount,
    marks: is === 'true-up' ? ['true-up'] : [],
    why,
  };
}

/** "November 2026" of a whole month, "1 October 2026" of a day, else "1 October 2026 to 31 December 2026". */
export function sayPeriod({ from, to }: Period): string {
  const month = (date: LocalDate) => `${monthOf(date)} ${date.slice(0, 4)}`;
  const isMonth = from.endsWith('-01') && to.endsWith('-01') && daysBetween(from, to) <= 31;
  const said = (date: LocalDate) => `${Number(date.slice(8))} ${month(date)}`;
  if (to === plusDays(from, 1)) return said(from);
  return isMonth ? month(from) : `${said(from)} to ${said(plusDays(to, -1))}`;
}
