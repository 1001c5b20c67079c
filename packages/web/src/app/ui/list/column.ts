/** One column of a list: what it says of a row, on the screen and in the CSV file. */
export interface Column<Row> {
  readonly key: string;
  readonly head: string;
  readonly text: (row: Row) => string;
  /** What the CSV file holds, where a machine reads it otherwise than a person: plain figures, ISO dates. */
  readonly file?: (row: Row) => string;
  /** The address of the record that the cell opens; one column of a list has it. */
  readonly link?: (row: Row) => string;
  readonly kind?: 'figure' | 'code' | 'soft';
  /** The server's name for ordering by it, with a minus where the first press lets it fall: the most, the newest first. */
  readonly sort?: string;
  /** A CSS width; columns without one share what is left. */
  readonly width?: string;
  /** False: shown only to who chooses it. */
  readonly shown?: boolean;
}

/** The columns to show: those that the address names, else those shown by themselves. */
export function chosenColumns<Row>(all: readonly Column<Row>[], named: string | undefined): readonly Column<Row>[] {
  const keys = named?.split(',');
  const some = keys ? all.filter((c) => keys.includes(c.key) || c.link) : all.filter((c) => c.shown !== false);
  return some.length ? some : all;
}

/** What the address says after a column was switched: nothing where that is what is shown anyway. */
export function switchColumn<Row>(all: readonly Column<Row>[], named: string | undefined, key: string): string | undefined {
  const now = chosenColumns(all, named).map((c) => c.key);
  const next = all.filter((c) => (c.key === key ? !now.includes(key) : now.includes(c.key)) || c.link).map((c) => c.key);
  const usual = all.filter((c) => c.shown !== false).map((c) => c.key);
  return next.join() === usual.join() ? undefined : next.join(',');
}

/** A sort by its name alone rises, and falls with a minus before it. */
const turned = (sort: string): string => (sort.startsWith('-') ? sort.slice(1) : `-${sort}`);

/** The sort that pressing a column's head asks for: by it, then turned round, then as before. */
export function nextSort(now: string | undefined, sort: string): string | undefined {
  if (now === sort) return turned(sort);
  return now === turned(sort) ? undefined : sort;
}
