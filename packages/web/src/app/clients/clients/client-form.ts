import { computed, inject, type Signal } from '@angular/core';
import { map } from 'rxjs';
import { clientFacts, type ClientForm, clientFormSchema, clientRoutes, newClientSchema, type ClientWire } from '@core/clients';
import { fieldChoices, fieldsOn, recordLines, withFieldValues } from '../../desk';
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
const FRESH = { zone: 'Europe/Dublin', country: 'IE', paymentDays: 30, taxExempt: false, taxNumber: null, fields: [] };

/**
 * The forms that add and change clients; called where injection is possible.
 * @param clientId the client whose assets own fields may name
 */
export function clientForms(clientId: Signal<string | null>) {
  const [api, session] = [inject(Api), inject(Session)];
  const fields = fieldsOn('client');
  const choices = fieldChoices(fields, clientId);
  const lines = computed((): readonly Line[] => [
    ...CLIENT_LINES,
    ...recordLines(fields(), { on: 'client', factsOf: (values) => clientFacts(values as unknown as ClientForm), choices: choices() }),
  ]);
  return {
    lines,
    /** Who works for several divisions says whose client it is. */
    addLines: computed((): readonly Line[] => {
      const divisions = session.current?.divisions ?? [];
      const options = divisions.map((d) => ({ value: d.id, label: d.name }));
      return divisions.length < 2 ? lines() : [...lines(), { name: 'divisionId', label: 'Division', kind: 'choice', options }];
    }),
    add: (): RecordForm<typeof newClientSchema> => ({
      schema: newClientSchema,
      initial: { ...FRESH, divisionId: session.current?.divisions[0]?.id ?? null },
      draft: 'new-client',
      does: 'Add the client',
      save: (body) => api.call(clientRoutes.createClient, { body }),
    }),
    change: (client: ClientWire): RecordForm<typeof clientFormSchema> => ({
      schema: clientFormSchema,
      initial: {
        ...Object.fromEntries(CLIENT_LINES.map(({ name }) => [name, client[name as keyof ClientWire]])),
        fields: withFieldValues(client).fields,
      },
      draft: `client.${client.id}`,
      does: 'Save',
      version: client.version,
      save: (body, version) => api.call(clientRoutes.editClient, { params: { clientId: client.id }, version: version!, body }),
      stored: () => api.call(clientRoutes.getClient, { params: { clientId: client.id } }).pipe(map(withFieldValues)),
    }),
  };
}
