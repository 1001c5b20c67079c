import type { Id, LocalDate } from '../../ground';
import type { Activity } from './rate-card';

/** An entry as far as visits are told apart. */
export interface VisitEntry {
  readonly id: string;
  readonly personId: Id<'person'>;
  readonly workId: Id<'work'>;
  /** Local date of its start in the provider's zone. */
  readonly on: LocalDate;
  readonly activity: Activity;
  readonly startsAt: number;
}

/**
 * Which entries carry a call-out fee: a visit is all entries of one technician on one piece of work and local day
 * at one activity, and its first entry adds the fee. Source: docs/calculations.md, Call-out fee.
 * @returns the ids of the entries that carry one
 */
export function callOutFeesDue(entries: readonly VisitEntry[]): Set<string> {
  const first = new Map<string, VisitEntry>();
  for (const entry of entries) {
    if (entry.activity.callOutFee === null) continue;
    const visit = [entry.personId, entry.workId, entry.on, entry.activity.id].join('|');
    const known = first.get(visit);
    if (!known || entry.startsAt < known.startsAt || (entry.startsAt === known.startsAt && entry.id < known.id)) first.set(visit, entry);
  }
  return new Set([...first.values()].map((entry) => entry.id));
}
