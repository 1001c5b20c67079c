/** A past ticket that is like the one at hand: what was decided on it, and how like it is. */
export interface Ballot {
  readonly value: string;
  /** 0 to 1. */
  readonly likeness: number;
}

export interface Elected {
  readonly value: string;
  /** Share of all likeness that spoke for it, in percent. */
  readonly percent: number;
  readonly votes: number;
  readonly of: number;
  /** So clear that it is taken without asking. */
  readonly sure: boolean;
}

const SURE_PERCENT = 60;
const SURE_VOTES = 2;
const LEAST_PERCENT = 35;

/**
 * What most like tickets had, each weighing by how like it is.
 * @returns undefined where there are none, or too mixed ones
 */
export function vote(ballots: readonly Ballot[]): Elected | undefined {
  const sums = new Map<string, { weight: number; votes: number }>();
  let all = 0;
  for (const { value, likeness } of ballots) {
    const sum = sums.get(value) ?? { weight: 0, votes: 0 };
    sums.set(value, { weight: sum.weight + likeness, votes: sum.votes + 1 });
    all += likeness;
  }
  // Of two alike the first by name wins, so that the answer is the same whatever the order.
  const [first] = [...sums].sort(([a, x], [b, y]) => y.weight - x.weight || (a < b ? -1 : 1));
  if (!first || all <= 0) return undefined;
  const [value, { weight, votes }] = first;
  const percent = Math.floor((weight * 100) / all);
  if (percent < LEAST_PERCENT) return undefined;
  return { value, percent, votes, of: ballots.length, sure: percent >= SURE_PERCENT && votes >= SURE_VOTES };
}
