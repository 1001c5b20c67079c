import { inject } from '@angular/core';
import { forkJoin, map, type Observable } from 'rxjs';
import { calendarRoutes } from '@core/ground';
import { clientRoutes, type ClientWire, promiseSchema } from '@core/clients';
import { promiseRoutes } from '@core/desk';
import { Api } from '../../shell/api';
import type { Line, RecordForm } from '../../ui/record-form';

export interface PromiseForm {
  readonly form: RecordForm<typeof promiseSchema>;
  readonly lines: readonly Line[];
}

/** Which promise holds for a client, and on which calendar; called where injection is possible. */
export function promiseForms(): (client: ClientWire) => Observable<PromiseForm> {
  const api = inject(Api);
  return (client) =>
    forkJoin([api.call(promiseRoutes.listPromises, {}), api.call(calendarRoutes.listCalendars, {})]).pipe(
      map(([{ promises }, { calendars }]) => ({
        lines: [
          {
            name: 'promiseId',
            label: 'Promise',
            kind: 'choice',
            none: 'that of the kind, else of the house',
            options: promises.map((p) => ({ value: p.id, label: p.name })),
          },
          {
            name: 'calendarId',
            label: 'Their working time',
            kind: 'choice',
            none: 'ours',
            options: calendars.map((c) => ({ value: c.id, label: c.name })),
          },
          { name: 'applyToOpen', label: 'Also for their open tickets: time counted stays', kind: 'yes' },
        ],
        form: {
          schema: promiseSchema,
          initial: { promiseId: client.promiseId, calendarId: client.calendarId, applyToOpen: false },
          draft: `promise.${client.id}`,
          does: 'Let it hold from now on',
          version: client.version,
          save: (body, version) => api.call(clientRoutes.setPromise, { params: { clientId: client.id }, version: version!, body }),
        },
      })),
    );
}
