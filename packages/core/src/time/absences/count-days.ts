import { plusDays, plusSeconds, secondsIn, unite, type Instant, type Interval, type LocalDate } from '../../ground';

/** Days off, both ends included; an end may be half a day: from the middle of the first, to the middle of the last. */
export interface DaysOff {
  readonly from: LocalDate;
  readonly to: LocalDate;
  readonly fromMiddle: boolean;
  readonly toMiddle: boolean;
}
/** A working day counts two halves, so that days stay whole numbers. */
export type Halves = 1 | 2;
const WHOLE_DAY: Halves = 2;

/** What an absence takes by date: two for a working day, one for half of it; days without work take nothing. */
export function countDays({ from, to, fromMiddle, toMiddle }: DaysOff, works: (date: LocalDate) => boolean): Map<LocalDate, Halves> {
  const days = new Map<LocalDate, Halves>();
  for (let date = from; date <= to; date = plusDays(date, 1)) {
    if (!works(date)) continue;
    const left = WHOLE_DAY - Number(date === from && fromMiddle) - Number(date === to && toMiddle);
    if (left > 0) days.set(date, left as Halves);
  }
  return days;
}

/** From when to when somebody is away. @param dayOf midnights of a date, and the working time in it */
export function awayDuring(
  { from, to, fromMiddle, toMiddle }: DaysOff,
  dayOf: (date: LocalDate) => Interval & { readonly working: readonly Interval[] },
): Interval {
  const [first, last] = [dayOf(from), dayOf(to)];
  return { from: fromMiddle ? middleOf(first) : first.from, to: toMiddle ? middleOf(last) : last.to };
}

/** The instant at which half of a day's working time is over; without any, the middle between its midnights. */
export function middleOf({ from, to, working }: Interval & { readonly working: readonly Interval[] }): Instant {
  const pieces = unite(working);
  let left = Math.floor(secondsIn(pieces) / 2);
  if (left === 0) return plusSeconds(from, Math.floor((to - from) / 2));
  for (const piece of pieces) {
    if (left <= piece.to - piece.from) return plusSeconds(piece.from, left);
    left -= piece.to - piece.from;
  }
  return to;
}

/** "2½ days" of so many halves. */
export function sayDays(halves: number): string {
  const [whole, half] = [Math.trunc(Math.abs(halves) / WHOLE_DAY), Math.abs(halves) % WHOLE_DAY];
  const figure = `${halves < 0 ? '−' : ''}${whole || !half ? whole : ''}${half ? '½' : ''}`;
  return `${figure} ${Math.abs(halves) <= WHOLE_DAY && halves !== 0 ? 'day' : 'days'}`;
}
