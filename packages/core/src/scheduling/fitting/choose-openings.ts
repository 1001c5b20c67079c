import type { Id, Instant, Interval } from '../../ground';

/** A slot that could be offered, with how well it fits. */
export interface Offerable extends Interval {
  readonly personId: Id<'person'>;
  readonly points: number;
}

const APART_SECONDS = 2 * 3600;

/**
 * The best few of many openings that give a real choice: their times lie two hours apart at least. In order of time.
 * @param from nothing earlier is offered
 */
export function chooseOpenings<T extends Offerable>(all: readonly T[], count: number, from: Instant): T[] {
  const chosen: T[] = [];
  const best = [...all]
    .filter((o) => o.from >= from)
    .sort((a, b) => b.points - a.points || a.from - b.from || (a.personId < b.personId ? -1 : 1));
  for (const opening of best) {
    if (chosen.length === count) break;
    if (chosen.every((c) => Math.abs(c.from - opening.from) >= APART_SECONDS)) chosen.push(opening);
  }
  return chosen.sort((a, b) => a.from - b.from);
}
