import { formatInstant, type WorkKind } from '@core/ground';
import type { EntryForm, TypedCell } from '@core/time';
import type { WeekEntry } from './read-week-sheet';

/** What a cell says besides its time: of new time on work of some kind, or of an entry, where what it leaves out stays. */
export function saidOf(cell: TypedCell, kind: WorkKind, entry?: WeekEntry) {
  const of = (typed: string | null | undefined, stands: string | null | undefined): string | null =>
    typed === undefined ? (stands ?? null) : typed || null;
  const own = kind === 'internal work';
  const billable = !own && (cell.billable ?? entry?.billable ?? true);
  return {
    note: of(cell.note, entry?.note),
    insideNote: of(cell.insideNote, entry?.insideNote),
    distance: of(cell.distance, entry?.distance),
    billable,
    reason: billable ? null : of(cell.reason, entry?.reason ?? (own ? 'internal' : null)),
  };
}

/** The entry said as a form says it. */
export function formOf(e: WeekEntry): EntryForm {
  return {
    workId: e.workId,
    startsAt: formatInstant(e.startsAt),
    duration: String(e.minutes),
    activityId: e.activityId,
    note: e.note,
    billable: e.billable,
    reason: e.reason,
  };
}
