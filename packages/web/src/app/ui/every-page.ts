import { EMPTY, expand, map, type Observable, toArray } from 'rxjs';
import { MOST_ROWS } from '@core/ground';

/** Which page of a list is asked for. */
export interface PageAsked {
  readonly most: number;
  readonly after?: string;
}

interface PageGot<Row> {
  readonly rows: readonly Row[];
  readonly next: string | null;
}

/** All rows of a list, page by page, so that a choice or a file leaves none out; with whatever else the first page says. */
export function everyPage<Row, Got extends PageGot<Row>>(
  load: (page: PageAsked) => Observable<Got & PageGot<Row>>,
): Observable<Got & { readonly rows: readonly Row[] }> {
  return load({ most: MOST_ROWS }).pipe(
    expand((page) => (page.next ? load({ most: MOST_ROWS, after: page.next }) : EMPTY)),
    toArray(),
    map((pages) => ({ ...pages[0]!, rows: pages.flatMap((page) => page.rows) })),
  );
}
