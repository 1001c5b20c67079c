import { formatInstant } from '@core/ground';
import type { EntryForm, TypedCell } from '@core/time';
import type { WeekEntry } from './read-week-sheet';

/** What a cell says besides its time: of new time, or of an entry, where what it leaves out stays. */
export function saidOf(cell: TypedCell, entry?: WeekEntry) {
  const of = (typed: string | null | undefined, stands: string | null | undefined): string | null =>
    typed === undefined ? (stands ?? null) : typed || null;
  const billable = !cell.internalId && (cell.billable ?? entry?.billable ?? true);
  return {
    note: of(cell.note, entry?.note),
    insideNote: of(cell.insideNote, entry?.insideNote),
    distance: of(cell.distance, entry?.distance),
    billable,
    reason: billable ? null : of(cell.reason, entry?.reason ?? (cell.internalId ? 'internal' : null)),
  };
}

/** The entry said as a form says it. */
export function formOf(e: WeekEntry): EntryForm {
  return {
    ticketId: e.ticketId,
    internalId: e.internalId,
    startsAt: formatInstant(e.startsAt),
    duration: String(e.minutes),
    activityId: e.activityId,
    note: e.note,
    billable: e.billable,
    reason: e.reason,
  };
}
