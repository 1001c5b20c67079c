import type { Id } from '../../ground';
/** A piece of work that is over: what it was, who did it, for whom, and the minutes that were logged on it. */
export interface PastCase {
  readonly kind: string;
  readonly categoryId: Id<'category'> | null;
  readonly personId: Id<'person'>;
  readonly clientId: Id<'client'> | null;
  readonly minutes: number;
}

/** How like two pieces of work are, the most like first. Source: docs/calculations.md, Estimates. */
export const LIKENESSES = ['kind, category, technician and client', 'kind, category and technician', 'kind and category', 'kind'] as const;
export type Likeness = (typeof LIKENESSES)[number];

/** What was learned of one group of like work; minutes are whole. */
export interface Learned {
  readonly likeness: Likeness;
  readonly key: string;
  readonly cases: number;
  readonly median: number;
  readonly p80: number;
  /** Of the cases that could have been estimated by those before them, and how many of them took no longer. */
  readonly judged: number;
  readonly right: number;
}

/** So many past cases are needed before a group is believed. */
export const LEAST_CASES = 8;

export interface Question {
  readonly kind: string;
  readonly categoryId: Id<'category'> | null;
  readonly personId: Id<'person'> | null;
  readonly clientId: Id<'client'> | null;
}

/** The group a piece of work falls into at a likeness; none where what it would be told by is not known. */
export function groupKey(likeness: Likeness, of: Question): string | undefined {
  const { kind, categoryId, personId, clientId } = of;
  const parts = {
    'kind, category, technician and client': [kind, categoryId, personId, clientId],
    'kind, category and technician': [kind, categoryId, personId],
    'kind and category': [kind, categoryId],
    kind: [kind],
  }[likeness];
  return parts.every((p) => p !== null) ? parts.join(' ') : undefined;
}

/** The middle of whole minutes, rounded half up where it lies between two. @param sorted not empty, rising */
export function medianOf(sorted: readonly number[]): number {
  const half = Math.floor(sorted.length / 2);
  return sorted.length % 2 ? sorted[half]! : Math.round((sorted[half - 1]! + sorted[half]!) / 2);
}

/** The smallest value that at least four fifths of all do not exceed. @param sorted not empty, rising */
export function percentile80(sorted: readonly number[]): number {
  return sorted[Math.ceil(sorted.length * 0.8) - 1]!;
}

/**
 * Learns from what happened, for every group of like work with cases enough. How often it was right is found by
 * going through the cases in order: each is judged by the 80th percentile of those before it, where those were enough.
 * @param cases the oldest first
 */
export function learnEstimates(cases: readonly PastCase[]): Learned[] {
  const groups = new Map<string, { likeness: Likeness; key: string; sorted: number[]; judged: number; right: number }>();
  for (const past of cases)
    for (const likeness of LIKENESSES) {
      const key = groupKey(likeness, past);
      if (key === undefined) continue;
      const name = `${likeness}:${key}`;
      let group = groups.get(name);
      if (!group) groups.set(name, (group = { likeness, key, sorted: [], judged: 0, right: 0 }));
      if (group.sorted.length >= LEAST_CASES) {
        group.judged++;
        if (past.minutes <= percentile80(group.sorted)) group.right++;
      }
      putInOrder(group.sorted, past.minutes);
    }
  return [...groups.values()]
    .filter((g) => g.sorted.length >= LEAST_CASES)
    .map(({ sorted, ...g }) => ({ ...g, cases: sorted.length, median: medianOf(sorted), p80: percentile80(sorted) }));
}

function putInOrder(sorted: number[], value: number): void {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! < value) low = middle + 1;
    else high = middle;
  }
  sorted.splice(low, 0, value);
}
