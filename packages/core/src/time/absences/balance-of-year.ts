import { type Explanation, type LocalDate, step } from '../../ground';
import { sayDays } from './count-days';

/** How many days a kind of absence gives in a year; everything in halves of a day. */
export interface BalanceRules {
  readonly yearHalves: number;
  /** At most so much of what is left goes into the next year; 0 for nothing. */
  readonly carryHalves: number;
  /** Month and day up to which, itself included, what was carried over can be used: "03-31". */
  readonly carryUntil: string;
}
/** What somebody was granted and took, of one kind. */
export interface Taken {
  /** Halves by year where they are not what the rules say. */
  readonly granted: ReadonlyMap<number, number>;
  /** Halves by date, of what is approved and of what is asked for and not decided. */
  readonly approved: ReadonlyMap<LocalDate, number>;
  readonly requested: ReadonlyMap<LocalDate, number>;
  /** The first year on record; nothing is carried over into it. */
  readonly firstYear: number;
}
export interface Balance {
  readonly granted: number;
  readonly carried: number;
  /** Of what was carried over, what was not used in time. */
  readonly lapsed: number;
  readonly approved: number;
  readonly requested: number;
  /** granted + carried − lapsed − approved − requested; below nothing where more was taken than there is. */
  readonly left: number;
  readonly explanation: Explanation;
}

/** What is left of a year, in halves of a day, with what was carried over from the year before. @param today decides what has lapsed */
export function balanceOfYear({
  year,
  today,
  rules,
  taken,
}: {
  readonly year: number;
  readonly today: LocalDate;
  readonly rules: BalanceRules;
  readonly taken: Taken;
}): Balance {
  const granted = taken.granted.get(year) ?? rules.yearHalves;
  const carried = carriedInto(year, rules, taken);
  const until = `${year}-${rules.carryUntil}` as LocalDate;
  const [approved, requested] = [sumIn(taken.approved, year), sumIn(taken.requested, year)];
  const lapsed = today > until ? carried - carriedUsed({ year, carried, rules, taken }) : 0;
  const left = granted + carried - lapsed - approved - requested;
  const carriedSteps = carried ? [step(`carried over from ${year - 1}, to be used by ${until}`, sayDays(carried))] : [];
  return {
    granted,
    carried,
    lapsed,
    approved,
    requested,
    left,
    explanation: [
      step(`given for ${year}`, sayDays(granted)),
      ...carriedSteps,
      ...(lapsed ? [step('not used in time', sayDays(-lapsed))] : []),
      step('approved', sayDays(-approved)),
      ...(requested ? [step('asked for', sayDays(-requested))] : []),
      step('left', sayDays(left)),
    ],
  };
}

/** How much more was taken in a year than it gives, when days after the carry-over's end do not use what was carried; 0 if it fits. */
export function overdrawnIn(year: number, rules: BalanceRules, taken: Taken): number {
  const carried = carriedUsed({ year, carried: carriedInto(year, rules, taken), rules, taken });
  return Math.max(0, sumIn(taken.approved, year) + sumIn(taken.requested, year) - carried - (taken.granted.get(year) ?? rules.yearHalves));
}

function carriedInto(year: number, rules: BalanceRules, taken: Taken): number {
  let carried = 0;
  for (let y = taken.firstYear; y < year; y++) {
    const used = sumIn(taken.approved, y) + sumIn(taken.requested, y);
    const left = (taken.granted.get(y) ?? rules.yearHalves) + carriedUsed({ year: y, carried, rules, taken }) - used;
    carried = Math.min(rules.carryHalves, Math.max(0, left));
  }
  return carried;
}

function carriedUsed({
  year,
  carried,
  rules: { carryUntil },
  taken: { approved, requested },
}: {
  readonly year: number;
  readonly carried: number;
  readonly rules: BalanceRules;
  readonly taken: Taken;
}): number {
  const until = `${year}-${carryUntil}` as LocalDate;
  return Math.min(carried, sumIn(approved, year, until) + sumIn(requested, year, until));
}

function sumIn(halves: ReadonlyMap<LocalDate, number>, year: number, until?: LocalDate): number {
  let sum = 0;
  for (const [date, n] of halves) if (date.startsWith(`${year}-`) && (until === undefined || date <= until)) sum += n;
  return sum;
}
