import { catchError, map, of, startWith, switchMap, type Observable } from 'rxjs';
import { problemOf, type Problem } from '../shell/problem';

/** What a page shows: it waits, it has, or it could not. What it had stays while it asks again. */
export type Loading<T> =
  { readonly is: 'waiting' } | { readonly is: 'there'; readonly value: T } | { readonly is: 'failed'; readonly problem: Problem };

/** Loads anew at every `when`; only the first time shows that it waits. */
export function loading<W, T>(when: Observable<W>, load: (w: W) => Observable<T>): Observable<Loading<T>> {
  return when.pipe(
    switchMap((w) =>
      load(w).pipe(
        map((value): Loading<T> => ({ is: 'there', value })),
        catchError((fault: unknown) => of<Loading<T>>({ is: 'failed', problem: problemOf(fault) })),
      ),
    ),
    startWith<Loading<T>>({ is: 'waiting' }),
  );
}
