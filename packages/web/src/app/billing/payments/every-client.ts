import { catchError, map, of, type Observable } from 'rxjs';
import { clientRoutes } from '@core/clients';
import type { Api } from '../../shell/api';
import { everyPage } from '../../ui/every-page';
import type { Option } from '../../ui/field';

/** All clients, to choose one; none where they cannot be read. */
export function everyClient(api: Api): Observable<readonly Option[]> {
  return everyPage((page) => api.call(clientRoutes.listClients, { query: page })).pipe(
    map(({ rows }) => rows.map((c): Option => ({ value: c.id, label: c.name }))),
    catchError(() => of([])),
  );
}
