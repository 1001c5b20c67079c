import { inject } from '@angular/core';
import { clientFormSchema, clientRoutes, type ClientWire } from '@core/clients';
import { Api } from '../shell/api';
import type { Line, RecordForm } from '../ui/record-form';

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

/** The forms that add and change clients; called where injection is possible. */
export function clientForms() {
  const api = inject(Api);
  return {
    add: (): RecordForm<typeof clientFormSchema> => ({
      schema: clientFormSchema,
      initial: FRESH,
      draft: 'new-client',
      does: 'Add the client',
      save: (body) => api.call(clientRoutes.createClient, { body }),
    }),
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
