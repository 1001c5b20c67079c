import { type Id, type Instant, type Interval, plusSeconds } from '../../ground';

/** What shows that somebody worked. Spans say how long; the others only when. The surest first. */
export const EVIDENCE = ['timer', 'booking', 'call', 'message', 'change', 'appointment'] as const;
export type EvidenceKind = (typeof EVIDENCE)[number];

export interface Evidence extends Interval {
  readonly id: string;
  readonly is: EvidenceKind;
  /** null for what belongs to no work that is known, as appointments from elsewhere. */
  readonly workId: Id<'work'> | null;
  readonly says: string;
  /** At the client's. */
  readonly visit?: boolean;
  /** The client never sees it, so it says nothing in a time entry's note. */
  readonly inside?: boolean;
}

/** Work of one stretch on one piece of work, with all that shows it. */
export interface Session extends Interval {
  readonly workId: Id<'work'> | null;
  readonly evidence: readonly Evidence[];
}

const MINUTE = 60;
/** Traces of one piece of work that lie nearer than this are one stretch of work. */
const NEAR_SECONDS = 20 * MINUTE;
/** How long somebody worked before what is left of it was written, and how long a call takes. */
const BEFORE_MINUTES: Readonly<Record<EvidenceKind, number>> = { timer: 0, booking: 0, call: 0, message: 10, change: 5, appointment: 0 };
const CALL_MINUTES = 10;
const SPANS: readonly EvidenceKind[] = ['timer', 'booking', 'appointment'];

/** Gathers evidence into stretches: a span is one, traces near each other are one, traces beside a span of their work join it. */
export function gatherSessions(evidence: readonly Evidence[]): Session[] {
  const spans: Session[] = evidence
    .filter((e) => SPANS.includes(e.is))
    .map((e) => ({ from: e.from, to: e.to, workId: e.workId, evidence: [e] }));
  const rest: Evidence[] = [];
  const joined = spans.map((s) => ({ ...s, evidence: [...s.evidence] }));
  for (const trace of evidence.filter((e) => !SPANS.includes(e.is))) {
    const beside = joined.find((s) => s.workId === trace.workId && s.workId !== null && isNear(s, trace));
    if (beside) beside.evidence.push(trace);
    else rest.push(trace);
  }
  return [...joined, ...byWork(rest).flatMap(cluster)];
}

function isNear(a: Interval, b: Interval): boolean {
  return a.from - NEAR_SECONDS <= b.to && b.from <= a.to + NEAR_SECONDS;
}

function byWork(traces: readonly Evidence[]): Evidence[][] {
  const groups = new Map<string, Evidence[]>();
  for (const trace of traces) groups.set(trace.workId ?? '', [...(groups.get(trace.workId ?? '') ?? []), trace]);
  return [...groups.values()];
}

function cluster(traces: readonly Evidence[]): Session[] {
  const sorted = [...traces].sort((a, b) => a.from - b.from || (a.id < b.id ? -1 : 1)).map((e) => ({ e, span: spanOf(e) }));
  const found: { from: Instant; to: Instant; evidence: Evidence[] }[] = [];
  for (const { e, span } of sorted) {
    const last = found.at(-1);
    if (last && span.from <= plusSeconds(last.to, NEAR_SECONDS)) {
      last.evidence.push(e);
      last.to = Math.max(last.to, span.to) as Instant;
      last.from = Math.min(last.from, span.from) as Instant;
    } else found.push({ ...span, evidence: [e] });
  }
  return found.map((s) => ({ ...s, workId: s.evidence[0]!.workId }));
}

function spanOf(e: Evidence): Interval {
  const before = plusSeconds(e.from, -BEFORE_MINUTES[e.is] * MINUTE);
  const after = e.is === 'call' ? Math.max(e.to, plusSeconds(e.from, CALL_MINUTES * MINUTE)) : e.to;
  return { from: before, to: after as Instant };
}
