import type { SuggestedRowWire, TypedCell } from '@core/week-sheet';

/** What a row says of itself. */
export type RowHead = Pick<
  SuggestedRowWire,
  'ticketId' | 'number' | 'subject' | 'client' | 'internalId' | 'internal' | 'activityId' | 'activity'
>;

/** A cell that was typed and is not stored: waiting for the server, refused, or met by somebody else's change. */
export interface KeptCell extends TypedCell {
  readonly is: 'waiting' | 'wrong' | 'changed meanwhile';
  readonly says: string;
}

interface Kept {
  readonly cells: readonly KeptCell[];
  readonly rows: readonly RowHead[];
}

type RowKey = { readonly ticketId: string | null; readonly internalId: string | null; readonly activityId: string };
export const keyOfRow = (r: RowKey): string => `${r.ticketId ?? r.internalId ?? ''} ${r.activityId}`;
export const keyOfCell = (c: RowKey & { readonly day: string }): string => `${keyOfRow(c)} ${c.day}`;

/** What was typed into the weeks of a person and not stored yet, kept in this browser: no closed window loses it. */
export class KeptCells {
  constructor(private readonly person: string) {}

  read(monday: string): Kept {
    const kept = localStorage.getItem(this.name(monday));
    return kept ? (JSON.parse(kept) as Kept) : { cells: [], rows: [] };
  }

  write(monday: string, kept: Kept): void {
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

export function withoutCells(cells: readonly KeptCell[], gone: readonly Parameters<typeof keyOfCell>[0][]): KeptCell[] {
  const keys = new Set(gone.map(keyOfCell));
  return cells.filter((c) => !keys.has(keyOfCell(c)));
}
