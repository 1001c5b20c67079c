import { parseMinutes } from '../../ground';

/** A pasted table of cells: minutes, nothing where a cell is empty, or what cannot be read with its place. */
export interface ReadGrid {
  readonly rows: readonly (readonly (number | undefined)[])[];
  readonly wrong: readonly { readonly row: number; readonly column: number; readonly text: string }[];
}

/** Reads what a spreadsheet copies: lines of cells with tabs between; numbers with a point or comma are hours. */
export function readGrid(text: string): ReadGrid {
  const lines = text.replace(/\r\n?/g, '\n').replace(/\n$/, '').split('\n');
  const wrong: { row: number; column: number; text: string }[] = [];
  const rows = lines.map((line, row) =>
    line.split('\t').map((cell, column) => {
      const typed = cell.trim();
      if (typed === '') return undefined;
      const minutes = parseMinutes(typed);
      if (minutes === undefined) wrong.push({ row, column, text: typed });
      return minutes;
    }),
  );
  return { rows, wrong };
}

/** Cells as a spreadsheet takes them: "1:30", empty where nothing is. */
export function writeGrid(rows: readonly (readonly number[])[]): string {
  return rows.map((row) => row.map((m) => (m ? clock(m) : '')).join('\t')).join('\n');
}

/** Minutes as hours and minutes of two figures: 90 is "1:30". */
export function clock(minutes: number): string {
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
}
