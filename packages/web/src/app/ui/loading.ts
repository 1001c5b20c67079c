import { catchError, defer, EMPTY, map, of, startWith, switchMap, tap, type Observable } from 'rxjs';
import { problemOf, type Problem } from '../shell/problem';

/** What a page shows: it waits, it has, or it could not. What it had stays while it asks again. */
export type Loading<T> =
  { readonly is: 'waiting' } | { readonly is: 'there'; readonly value: T } | { readonly is: 'failed'; readonly problem: Problem };

/**
 * Loads anew at every `when`; only the first time shows that it waits. Where the server is away for a while,
 * what was there stays: the frame says that the connection is lost, and the next event loads again.
 */
export function loading<W, T>(when: Observable<W>, load: (w: W) => Observable<T>): Observable<Loading<T>> {
  return defer(() => {
    let had = false;
    return when.pipe(
      switchMap((w) =>
        load(w).pipe(
          map((value): Loading<T> => ({ is: 'there', value })),
          tap(() => (had = true)),
          catchError((fault: unknown) => {
            const problem = problemOf(fault);
            return had && isAway(problem) ? EMPTY : of<Loading<T>>({ is: 'failed', problem });
          }),
        ),
      ),
      startWith<Loading<T>>({ is: 'waiting' }),
    );
  });
}

function isAway({ status }: Problem): boolean {
  return status === 0 || status >= 500;
}
