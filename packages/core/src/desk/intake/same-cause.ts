import { plusSeconds, type Instant } from '../../ground';
import { wordsOf } from './words-of';

/** A report as far as a common cause cares. */
export interface Report {
  readonly id: string;
  readonly at: Instant;
  readonly subject: string;
  readonly text: string;
}

export interface SameCause {
  /** The others, the most like first. */
  readonly ids: readonly string[];
  /** Words they share, the telling ones. */
  readonly words: readonly string[];
}

/** Reports further apart than this have no cause in common that is worth pointing out. */
export const CAUSE_SECONDS = 90 * 60;
const LEAST_OTHERS = 2;
/** Two words in all are enough where a word of the subjects is among them; else there must be more. */
const LEAST_SHARED = 2;
const LEAST_WITHOUT_SUBJECT = 5;
const MOST_WORDS = 4;

/**
 * Whether several like messages came in a short while, so that they have perhaps the same cause: at least two
 * others within an hour and a half that share at least two telling words, one of them in both subjects, or many. A word that most reports carry
 * anyway tells nothing.
 * @param others all reports of that while
 */
export function sameCause(report: Report, others: readonly Report[]): SameCause | undefined {
  const near = others.filter((o) => o.id !== report.id && Math.abs(o.at - report.at) <= CAUSE_SECONDS);
  const [own, subject] = [wordsOf(`${report.subject} ${report.text}`), wordsOf(report.subject)];
  const sets = near.map((o) => ({ id: o.id, words: wordsOf(`${o.subject} ${o.text}`), subject: wordsOf(o.subject) }));
  const common = (word: string) => sets.filter((s) => s.words.has(word)).length > Math.max(4, sets.length * 0.6);
  const alike = sets
    .map((s) => {
      const shared = [...own].filter((w) => s.words.has(w) && !common(w));
      const named = shared.some((w) => subject.has(w) && s.subject.has(w));
      return { id: s.id, shared, least: named ? LEAST_SHARED : LEAST_WITHOUT_SUBJECT };
    })
    .filter((s) => s.shared.length >= s.least)
    .sort((a, b) => b.shared.length - a.shared.length || (a.id < b.id ? -1 : 1));
  if (alike.length < LEAST_OTHERS) return undefined;
  const counts = new Map<string, number>();
  for (const word of alike.flatMap((s) => s.shared)) counts.set(word, (counts.get(word) ?? 0) + 1);
  const words = [...counts]
    .sort(([a, x], [b, y]) => y - x || (a < b ? -1 : 1))
    .slice(0, MOST_WORDS)
    .map(([word]) => word);
  return { ids: alike.map((s) => s.id), words };
}

/** From when to when others count. */
export function causeSpan(at: Instant): { readonly from: Instant; readonly to: Instant } {
  return { from: plusSeconds(at, -CAUSE_SECONDS), to: plusSeconds(at, CAUSE_SECONDS) };
}
