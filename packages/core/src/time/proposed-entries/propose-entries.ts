import { type Explanation, formatMinutes, type Id, type Instant, type Interval, subtract, unite } from '../../ground';
import { EVIDENCE, gatherSessions, type Evidence, type Session } from './evidence';

/** Time that was recorded. */
export interface Recorded extends Interval {
  readonly workId: Id<'work'> | null;
}

/** A time entry as it could be, with what shows that it was so. */
export interface ProposedEntry extends Interval {
  /** Stays the same while the evidence it began with does. */
  readonly key: string;
  readonly workId: Id<'work'> | null;
  readonly minutes: number;
  readonly evidence: readonly Evidence[];
  /** Whether it goes along in a sweep unless somebody says no. */
  readonly sure: boolean;
  readonly why: Explanation;
}

const MINUTE = 60;
const LEAST_MINUTES = 5;
/** Evidence this near to recorded time of its ticket is recorded with it. */
const RECORDED_NEAR = 15 * MINUTE;

/**
 * Writes a day from what is left of it. The surest evidence takes its time first; nothing is proposed twice, over what
 * is recorded, before it happened, or for less than five minutes. Whole minutes; instants are whole seconds.
 */
export function proposeEntries(evidence: readonly Evidence[], recorded: readonly Recorded[], now: Instant): ProposedEntry[] {
  const sessions = gatherSessions(evidence.filter((e) => e.from <= now))
    .filter((s) => !recorded.some((r) => r.workId === s.workId && covers(r, s)))
    .sort((a, b) => rankOf(a) - rankOf(b) || a.from - b.from || (keyOf(a) < keyOf(b) ? -1 : 1));
  let taken = unite(recorded);
  const found: ProposedEntry[] = [];
  for (const session of sessions) {
    const free = subtract([{ from: session.from, to: Math.min(session.to, now) as Instant }], taken);
    const part = wholeMinutes(free.sort((a, b) => b.to - b.from - (a.to - a.from) || a.from - b.from)[0]);
    if (!part) continue;
    taken = unite([...taken, part]);
    found.push(written(session, part));
  }
  return found.sort((a, b) => a.from - b.from);
}

function covers(r: Recorded, s: Session): boolean {
  return r.from < s.to + RECORDED_NEAR && s.from < r.to + RECORDED_NEAR;
}

function rankOf(s: Session): number {
  return Math.min(...s.evidence.map((e) => EVIDENCE.indexOf(e.is)));
}

function keyOf(s: Session): string {
  const first = [...s.evidence].sort(
    (a, b) => EVIDENCE.indexOf(a.is) - EVIDENCE.indexOf(b.is) || a.from - b.from || (a.id < b.id ? -1 : 1),
  )[0]!;
  return `${first.is} ${first.id}`;
}

/** Cut to whole minutes from within, so that it stays in its gap. */
function wholeMinutes(span: Interval | undefined): Interval | undefined {
  if (!span) return undefined;
  const from = Math.ceil(span.from / MINUTE) * MINUTE;
  const to = Math.floor(span.to / MINUTE) * MINUTE;
  return to - from >= LEAST_MINUTES * MINUTE ? { from: from as Instant, to: to as Instant } : undefined;
}

function written(session: Session, part: Interval): ProposedEntry {
  const minutes = (part.to - part.from) / MINUTE;
  const rank = rankOf(session);
  return {
    key: keyOf(session),
    workId: session.workId,
    ...part,
    minutes,
    evidence: session.evidence,
    sure: rank <= EVIDENCE.indexOf('message') && session.workId !== null,
    why: [...session.evidence.map((e) => ({ rule: `${e.is}: ${e.says}` })), { rule: `${formatMinutes(minutes)} of it not recorded yet` }],
  };
}
