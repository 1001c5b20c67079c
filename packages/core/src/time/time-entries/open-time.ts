import { intersect, subtract, unite, type Instant, type Interval } from '../../ground';

/** What is shorter is no gap worth a word. */
const LEAST_OPEN_SECONDS = 300;

/** Expected time that has passed with nothing recorded. */
export function openTime(expected: readonly Interval[], recorded: readonly Interval[], now: Instant): Interval[] {
  const passed = expected.map((w) => ({ from: w.from, to: Math.min(w.to, now) as Instant }));
  return subtract(unite(passed), unite(recorded)).filter((gap) => gap.to - gap.from >= LEAST_OPEN_SECONDS);
}

/** Stretches in which at least two of somebody's entries lie. */
export function overlapsOf(entries: readonly Interval[]): Interval[] {
  return unite(entries.flatMap((entry, n) => intersect([entry], unite(entries.slice(n + 1)))));
}
