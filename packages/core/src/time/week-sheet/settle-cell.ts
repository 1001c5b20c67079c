import type { Instant } from '../../ground';

/** An entry of a cell, as far as changing the cell goes; whole minutes. */
export interface CellEntry {
  readonly id: string;
  readonly startsAt: Instant;
  readonly minutes: number;
  /** Decided on in money, so that it stays as it is. */
  readonly frozen: boolean;
}

/** What becomes of a cell: only what changes is named. */
export interface CellChange {
  /** Minutes that a new entry takes; 0 where none is needed. */
  readonly add: number;
  readonly change: readonly { readonly id: string; readonly minutes: number }[];
  readonly remove: readonly string[];
}
export type Settled = { readonly is: 'settled'; readonly change: CellChange } | { readonly is: 'frozen'; readonly least: number };

/**
 * How the entries of a cell come to the minutes that were typed: a cell of one entry changes it, more is added to the
 * last one, less is taken from the last ones first. What is frozen stays, and less than that cannot be.
 * @param wanted whole minutes, 0 empties the cell
 */
export function settleCell(entries: readonly CellEntry[], wanted: number): Settled {
  const has = entries.reduce((sum, e) => sum + e.minutes, 0);
  const frozen = entries.filter((e) => e.frozen).reduce((sum, e) => sum + e.minutes, 0);
  if (wanted < frozen) return { is: 'frozen', least: frozen };
  const open = entries.filter((e) => !e.frozen).sort((a, b) => b.startsAt - a.startsAt || (a.id < b.id ? 1 : -1));
  if (wanted === has) return settled({});
  if (wanted > has) {
    const last = open[0];
    return last ? settled({ change: [{ id: last.id, minutes: last.minutes + wanted - has }] }) : settled({ add: wanted - has });
  }
  let over = has - wanted;
  const [change, remove]: [{ id: string; minutes: number }[], string[]] = [[], []];
  for (const entry of open) {
    if (!over) break;
    if (entry.minutes <= over) remove.push(entry.id);
    else change.push({ id: entry.id, minutes: entry.minutes - over });
    over -= Math.min(over, entry.minutes);
  }
  return settled({ change, remove });
}

function settled(part: Partial<CellChange>): Settled {
  return { is: 'settled', change: { add: 0, change: [], remove: [], ...part } };
}
