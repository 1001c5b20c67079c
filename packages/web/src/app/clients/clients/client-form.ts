import { inject } from '@angular/core';
import { forkJoin, map, type Observable } from 'rxjs';
import { calendarRoutes } from '@core/ground';
import { clientFormSchema, clientRoutes, newClientSchema, promiseSchema, type ClientWire } from '@core/clients';
import { policyRoutes } from '@core/desk';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import type { Line, RecordForm } from '../../ui/record-form';

export const CLIENT_LINES: readonly Line[] = [
  { name: 'name', label: 'Name' },
  { name: 'domains', label: 'Mail domains', placeholder: 'hollin.example, hollinvets.example' },
  { name: 'zone', label: 'Time zone' },
  { name: 'street', label: 'Street' },
  { name: 'city', label: 'City' },
  { name: 'postcode', label: 'Postcode' },
  { name: 'country', label: 'Country' },
  { name: 'invoiceEmail', label: 'Invoices go to' },
  { name: 'paymentDays', label: 'Days to pay', kind: 'number' },
  { name: 'taxNumber', label: 'Tax number' },
  { name: 'taxExempt', label: 'Exempt from tax', kind: 'yes' },
];
const FRESH = { zone: 'Europe/Dublin', country: 'IE', paymentDays: 30, taxExempt: false, taxNumber: null };

export interface PromiseForm {
  readonly form: RecordForm<typeof promiseSchema>;
  readonly lines: readonly Line[];
}

/** The forms that add and change clients; called where injection is possible. */
export function clientForms() {
  const [api, session] = [inject(Api), inject(Session)];
  return {
    /** Who works for several divisions says whose client it is. */
    addLines: (): readonly Line[] => {
      const divisions = session.current?.divisions ?? [];
      const options = divisions.map((d) => ({ value: d.id, label: d.name }));
      return divisions.length < 2 ? CLIENT_LINES : [...CLIENT_LINES, { name: 'divisionId', label: 'Division', kind: 'choice', options }];
    },
    add: (): RecordForm<typeof newClientSchema> => ({
      schema: newClientSchema,
      initial: { ...FRESH, divisionId: session.current?.divisions[0]?.id ?? null },
      draft: 'new-client',
      does: 'Add the client',
      save: (body) => api.call(clientRoutes.createClient, { body }),
    }),
    /** Which promise holds for them, and on which calendar. */
    promise: (client: ClientWire): Observable<PromiseForm> =>
      forkJoin([api.call(policyRoutes.listPolicies, {}), api.call(calendarRoutes.listCalendars, {})]).pipe(
        map(([{ policies }, { calendars }]) => ({
          lines: [
            {
              name: 'policyId',
              label: 'Promise',
              kind: 'choice',
              none: 'that of the kind, else of the house',
              options: policies.map((p) => ({ value: p.id, label: p.name })),
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
            initial: { policyId: client.policyId, calendarId: client.calendarId, applyToOpen: false },
            draft: `promise.${client.id}`,
            does: 'Let it hold from now on',
            version: client.version,
            save: (body, version) => api.call(clientRoutes.setPromise, { params: { clientId: client.id }, version: version!, body }),
          },
        })),
      ),
    change: (client: ClientWire): RecordForm<typeof clientFormSchema> => ({
      schema: clientFormSchema,
      initial: Object.fromEntries(CLIENT_LINES.map(({ name }) => [name, client[name as keyof ClientWire]])),
      draft: `client.${client.id}`,
      does: 'Save',
      version: client.version,
      save: (body, version) => api.call(clientRoutes.editClient, { params: { clientId: client.id }, version: version!, body }),
      stored: () => api.call(clientRoutes.getClient, { params: { clientId: client.id } }),
    }),
  };
}
