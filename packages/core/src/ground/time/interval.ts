import type { Instant } from './instant';

/** A half open stretch of time, [from, to). */
export interface Interval {
  readonly from: Instant;
  readonly to: Instant;
}

/** Sorts, drops what is empty and joins what overlaps or touches, so that nothing counts twice. */
export function unite(intervals: readonly Interval[]): Interval[] {
  const out: { from: Instant; to: Instant }[] = [];
  for (const { from, to } of [...intervals].sort((a, b) => a.from - b.from)) {
    if (to <= from) continue;
    const last = out.at(-1);
    if (last && from <= last.to) last.to = Math.max(last.to, to) as Instant;
    else out.push({ from, to });
  }
  return out;
}

/** What lies in both; both must be united. */
export function intersect(a: readonly Interval[], b: readonly Interval[]): Interval[] {
  const out: Interval[] = [];
  for (const x of a)
    for (const y of b) {
      const from = Math.max(x.from, y.from) as Instant;
      const to = Math.min(x.to, y.to) as Instant;
      if (from < to) out.push({ from, to });
    }
  return unite(out);
}

/** What lies in `a` and not in `b`; both must be united. */
export function subtract(a: readonly Interval[], b: readonly Interval[]): Interval[] {
  let left = [...a];
  for (const cut of b)
    left = left.flatMap((x) =>
      [
        { from: x.from, to: Math.min(x.to, cut.from) as Instant },
        { from: Math.max(x.from, cut.to) as Instant, to: x.to },
      ].filter((part) => part.from < part.to),
    );
  return left;
}

/** Total length in seconds. */
export function secondsIn(intervals: readonly Interval[]): number {
  return intervals.reduce((sum, { from, to }) => sum + (to - from), 0);
}
