import { type Explanation, formatMinutes } from '../../ground';
import { groupKey, LIKENESSES, type Learned, type Question } from './learn-estimates';

/** What nobody estimated and nothing was learned of. Source: docs/calculations.md, Estimates. */
export const HOUSE_ESTIMATE_MINUTES = 30;

/** How long a piece of work is thought to take, in whole minutes, and where that comes from. */
export interface Estimate {
  readonly minutes: number;
  /** What four fifths of like work do not exceed; what is typed stands for itself. */
  readonly p80: number;
  readonly from: 'typed' | 'learned' | 'house';
  readonly says: string;
  readonly why: Explanation;
}

/** Finds what was learned at a likeness under a key. */
export type FindLearned = (likeness: Learned['likeness'], key: string) => Learned | undefined;

/** How often an estimate that somebody typed was enough, over the tickets that are over. */
export interface TypedRecord {
  readonly judged: number;
  readonly right: number;
}

/**
 * Typed on the ticket; else learned from like work, a step wider where there is too little of it; else 30 minutes.
 * Source: docs/calculations.md, Estimates.
 */
export function estimateOf({
  typed,
  of,
  find,
  typedRecord,
}: {
  readonly typed: number | null;
  readonly of: Question;
  readonly find: FindLearned;
  readonly typedRecord: TypedRecord;
}): Estimate {
  if (typed !== null)
    return {
      minutes: typed,
      p80: typed,
      from: 'typed',
      says: 'typed on the ticket',
      why: [{ rule: `typed on the ticket: ${formatMinutes(typed)}` }, { rule: saysRight('typed estimates', typedRecord) }],
    };
  for (const likeness of LIKENESSES) {
    const key = groupKey(likeness, of);
    const learned = key === undefined ? undefined : find(likeness, key);
    if (!learned) continue;
    return {
      minutes: learned.median,
      p80: learned.p80,
      from: 'learned',
      says: `learned from ${learned.cases} of the same ${likeness}`,
      why: [
        { rule: `${learned.cases} past cases of the same ${likeness}` },
        { rule: `half of them took up to ${formatMinutes(learned.median)}, four fifths up to ${formatMinutes(learned.p80)}` },
        { rule: saysRight('this estimate', learned) },
      ],
    };
  }
  const minutes = HOUSE_ESTIMATE_MINUTES;
  const why = [{ rule: `nothing typed and too little like work yet: the house's ${formatMinutes(minutes)}` }];
  return { minutes, p80: minutes, from: 'house', says: "the house's usual", why };
}

function saysRight(what: string, { judged, right }: TypedRecord): string {
  if (!judged) return `how often ${what} were enough cannot be told yet`;
  return `${what} would have been enough in ${right} of ${judged} (${Math.floor((right * 100) / judged)} %)`;
}
