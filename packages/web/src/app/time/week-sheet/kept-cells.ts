import type { SuggestedRowWire, TypedCell } from '@core/time';
import type { Id } from '@core/ground';

/** What a row says of itself. */
export type RowHead = Pick<SuggestedRowWire, 'workId' | 'workKind' | 'number' | 'subject' | 'client' | 'activityId' | 'activity'>;

/**
 * A cell that was typed: waiting for the server, refused, met by somebody else's change, or stored, which shows until the
 * week is read again.
 */
export interface KeptCell extends TypedCell {
  readonly is: 'waiting' | 'wrong' | 'changed meanwhile' | 'stored';
  readonly says: string;
}

interface Kept {
  readonly cells: readonly KeptCell[];
  readonly rows: readonly RowHead[];
}

type RowKey = { readonly workId: Id<'work'>; readonly activityId: Id<'activity'> };
export const keyOfRow = (r: RowKey): string => `${r.workId} ${r.activityId}`;
export const keyOfCell = (c: RowKey & { readonly day: string }): string => `${keyOfRow(c)} ${c.day}`;

/** What was typed into the weeks of a person and not stored yet, kept in this browser: no closed window loses it. */
export class KeptCells {
  constructor(private readonly person: string) {}

  read(monday: string): Kept {
    const kept = localStorage.getItem(this.name(monday));
    return kept ? (JSON.parse(kept) as Kept) : { cells: [], rows: [] };
  }

  write(monday: string, { cells, rows }: Kept): void {
    const kept = { cells: cells.filter((c) => c.is !== 'stored'), rows };
    if (kept.cells.length || kept.rows.length) localStorage.setItem(this.name(monday), JSON.stringify(kept));
    else localStorage.removeItem(this.name(monday));
  }

  private name(monday: string): string {
    return `drumline.week.${this.person}.${monday}`;
  }
}

/** Cells with one put in, in place of what was kept for it. */
export function withCell(cells: readonly KeptCell[], cell: KeptCell): KeptCell[] {
  return [...withoutCells(cells, [cell]), cell];
}

const SAID = ['typed', 'note', 'insideNote', 'distance', 'billable', 'reason'] as const;

/** The very same was typed into the same cell, so that an answer to one is no answer to what was typed after it. */
export function isSame(a: TypedCell, b: TypedCell): boolean {
  return keyOfCell(a) === keyOfCell(b) && SAID.every((name) => a[name] === b[name]);
}

/** A cell with what was said of it before and is not stored yet; what it leaves out stays said. */
export function withSaid(cell: TypedCell, kept: readonly KeptCell[]): TypedCell {
  const before = kept.find((k) => k.is !== 'stored' && keyOfCell(k) === keyOfCell(cell));
  if (!before) return cell;
  const said = Object.fromEntries(SAID.filter((name) => cell[name] === undefined).map((name) => [name, before[name]]));
  return { ...cell, ...said };
}

export function withoutCells(cells: readonly KeptCell[], gone: readonly Parameters<typeof keyOfCell>[0][]): KeptCell[] {
  const keys = new Set(gone.map(keyOfCell));
  return cells.filter((c) => !keys.has(keyOfCell(c)));
}
