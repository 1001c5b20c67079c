import type { Interval } from '../../ground';

/** Work that somebody had around a gap in their day; the sooner in this list, the likelier. */
export const LIKELY_BECAUSE = ['booked then', 'worked on before', 'worked on after'] as const;
export type LikelyBecause = (typeof LIKELY_BECAUSE)[number];
export interface LikelyWork<T> {
  readonly work: T;
  readonly because: LikelyBecause;
}
/** Further away than this, what was worked on says nothing of a gap. */
const NEAR_SECONDS = 3600;

/** What a gap was most likely spent on: the booking that most of it lies in, else the last work before it, else the next after; undefined of nothing near. */
export function likelyWork<T>(
  gap: Interval,
  booked: readonly (Interval & { readonly work: T })[],
  recorded: readonly (Interval & { readonly work: T })[],
): LikelyWork<T> | undefined {
  const over = (b: Interval) => Math.min(b.to, gap.to) - Math.max(b.from, gap.from);
  const [most] = booked.filter((b) => over(b) > 0).sort((a, b) => over(b) - over(a));
  if (most) return { work: most.work, because: 'booked then' };
  const [before] = recorded.filter((e) => e.to <= gap.from && gap.from - e.to <= NEAR_SECONDS).sort((a, b) => b.to - a.to);
  if (before) return { work: before.work, because: 'worked on before' };
  const [after] = recorded.filter((e) => e.from >= gap.to && e.from - gap.to <= NEAR_SECONDS).sort((a, b) => a.from - b.from);
  return after && { work: after.work, because: 'worked on after' };
}
