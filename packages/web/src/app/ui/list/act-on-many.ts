import { catchError, map, mergeMap, of, from, toArray, type Observable } from 'rxjs';
import { problemOf } from '../../shell/problem';
import type { Toasts } from '../../shell/toasts';

export interface ManyAct<Row> {
  readonly rows: readonly Row[];
  readonly act: (row: Row) => Observable<{ readonly version: number }>;
  readonly undo: (row: Row, version: number) => Observable<unknown>;
  /** What was done, with how many: "3 put away". */
  readonly words: (count: number) => string;
  readonly toasts: Toasts;
  readonly after?: () => void;
}

const AT_ONCE = 4;

/** Does one thing to many rows, says what was done and what was refused and why, and offers to undo what was done. */
export function actOnMany<Row>({ rows, act, undo, words, toasts, after }: ManyAct<Row>): void {
  from(rows)
    .pipe(
      mergeMap(
        (row) =>
          act(row).pipe(
            map(({ version }) => ({ row, version, why: '' })),
            catchError((fault: unknown) => of({ row, version: undefined, why: problemOf(fault).detail })),
          ),
        AT_ONCE,
      ),
      toArray(),
    )
    .subscribe((results) => {
      const done = results.filter((r) => r.version !== undefined);
      const refused = results.filter((r) => r.version === undefined);
      if (done.length) toasts.done(words(done.length), () => undoAll({ done, undo, toasts, after }));
      if (refused.length) toasts.trouble(`${refused.length} not: ${refused[0]!.why}`);
      after?.();
    });
}

function undoAll<Row>({
  done,
  undo,
  toasts,
  after,
}: {
  readonly done: readonly { readonly row: Row; readonly version: number | undefined }[];
  readonly undo: ManyAct<Row>['undo'];
  readonly toasts: Toasts;
  readonly after: (() => void) | undefined;
}): void {
  from(done)
    .pipe(
      mergeMap(({ row, version }) => undo(row, version!), AT_ONCE),
      toArray(),
    )
    .subscribe({ next: () => after?.(), error: (fault: unknown) => (toasts.trouble(fault), after?.()) });
}
