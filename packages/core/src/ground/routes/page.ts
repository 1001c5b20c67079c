import { number, string, type ISchema, type ObjectShape } from 'yup';
import { count, list, optionalText, record, yes } from './fields';

/** The most rows of one page, and how many a page has where nothing is said. */
export const MOST_ROWS = 1000;
export const PAGE_ROWS = 100;
/** Counts are not taken further than this: "1,000+". */
export const COUNT_CAP = 1000;

/**
 * The query of a list: its filters, a sort by name (it rises; with a minus before it, it falls), the place to go on
 * after and how many rows at most. The same words stand in the page's address.
 * @param sorts their names; the first is usual, with its minus where it falls
 */
export function pageQuery<const S extends readonly string[], F extends ObjectShape>(sorts: S, filters: F) {
  const names = sorts.map((sort) => sort.replace(/^-/, ''));
  const either = names.flatMap((name) => [name, `-${name}`]);
  return record({
    ...filters,
    sort: string()
      .oneOf(either, `sort by one of ${either.join(', ')}`)
      .default(sorts[0]!),
    after: string().max(600),
    most: number().integer().min(1).max(MOST_ROWS, `at most ${MOST_ROWS} rows`).default(PAGE_ROWS),
  });
}

/** The answer of a list: the rows, how many there are in all (not counted past COUNT_CAP), and the place to go on after. */
export function pageOf<T>(row: ISchema<T>) {
  return record({ rows: list(row), count: count(), countCapped: yes(), next: optionalText(600) });
}

export interface Page<Row> {
  readonly rows: Row[];
  readonly count: number;
  readonly countCapped: boolean;
  /** Where the next page begins; null where this is the last. */
  readonly next: string | null;
}
