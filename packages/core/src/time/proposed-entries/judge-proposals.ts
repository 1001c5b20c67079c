import { intersect, secondsIn, unite } from '../../ground';
import type { ProposedEntry, Recorded } from './propose-entries';

/** How well proposals tell what was recorded; seconds and minutes summed over whatever was judged. */
export interface Judgement {
  readonly recordedMinutes: number;
  /** Recorded time that a proposal for the same ticket covers. */
  readonly coveredMinutes: number;
  /** How far proposed and recorded time of each ticket are apart, added up. */
  readonly apartMinutes: number;
}

/** Holds what would have been proposed, had nothing been recorded, against what was. */
export function judgeProposals(proposed: readonly ProposedEntry[], recorded: readonly Recorded[]): Judgement {
  const tickets = [...new Set([...proposed, ...recorded].map((x) => x.workId))];
  let [covered, apart] = [0, 0];
  for (const workId of tickets) {
    const [ours, theirs] = [proposed, recorded].map((all) => unite(all.filter((x) => x.workId === workId)));
    covered += secondsIn(intersect(ours!, theirs!));
    apart += Math.abs(secondsIn(ours!) - secondsIn(theirs!));
  }
  const whole = tickets.reduce((sum, id) => sum + secondsIn(unite(recorded.filter((r) => r.workId === id))), 0);
  return { recordedMinutes: Math.round(whole / 60), coveredMinutes: Math.round(covered / 60), apartMinutes: Math.round(apart / 60) };
}
