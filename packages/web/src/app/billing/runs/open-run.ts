import { inject } from '@angular/core';
import { catchError, map, of, startWith, switchMap, type Observable } from 'rxjs';
import { runRoutes, type RunRowWire } from '@core/billing';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';

/** The run that is not done, where there is one; read anew as runs change. Called where injection is possible. */
export function openRun$(): Observable<{ readonly run: RunRowWire | undefined } | undefined> {
  const api = inject(Api);
  return inject(Live)
    .about('run')
    .pipe(
      startWith(undefined),
      switchMap(() =>
        api.call(runRoutes.listRuns, { query: { open: true, most: 1 } }).pipe(
          map(({ rows }) => ({ run: rows[0] })),
          catchError(() => of(undefined)),
        ),
      ),
    );
}
