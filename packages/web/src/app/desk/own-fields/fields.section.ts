import { inject } from '@angular/core';
import { forkJoin, map } from 'rxjs';
import { sayWhen } from '@core/ground';
import {
  FIELD_KINDS,
  FIELD_RECORDS,
  type FieldRecord,
  MOMENTS_OF,
  ownFieldFormSchema,
  ownFieldRoutes,
  type OwnFieldWire,
} from '@core/desk';
import { KnownFacts, ruleNames } from '../../ground';
import type { SetupRow, SetupSection } from '../../ui/setup-list';
import { Api } from '../../shell/api';
import { linesOf, textOf } from '../../ui/one-a-line';

type Row = OwnFieldWire & SetupRow;
const onOf = (values: Readonly<Record<string, unknown>>): FieldRecord => values['on'] as FieldRecord;

/** Own fields in Setup; called where injection is possible. */
export function fieldsSection(): SetupSection<Row, typeof ownFieldFormSchema> {
  const [api, facts] = [inject(Api), inject(KnownFacts)];
  return {
    heading: 'Own fields',
    intro:
      'What tickets, assets, clients and contacts hold besides what every one of them has: where it is shown, and when it must be filled.',
    addWords: 'Add a field',
    none: 'No own field yet. Add one where a kind of ticket needs to know more, such as the day a new person starts, or an asset, such as where its key hangs.',
    rows: () =>
      forkJoin([api.call(ownFieldRoutes.listOwnFields, { query: {} }), ...FIELD_RECORDS.map((on) => facts.of(on))]).pipe(
        map(([{ fields }, ...known]) => {
          const names = new Map(FIELD_RECORDS.map((on, n) => [on, ruleNames(known[n]!)]));
          return fields.map((f) => ({
            ...f,
            says: [
              `on every ${f.on}`,
              f.kind === 'choice' ? `choice of ${f.choices.join(', ')}` : f.kind,
              `shown ${sayWhen(f.shown, names.get(f.on)!)}`,
              ...(f.asked.length ? [`required ${sayWhen(f.required, names.get(f.on)!)}, at ${f.asked.join(', ')}`] : ['never required']),
            ].join('; '),
          }));
        }),
      ),
    draft: 'own-field',
    schema: ownFieldFormSchema,
    fresh: () => ({ name: '', on: 'ticket', kind: 'text', choices: [], shown: true, required: false, asked: [] }),
    lines: () => [
      { name: 'name', label: 'Name' },
      {
        name: 'on',
        label: 'On every',
        kind: 'choice',
        options: FIELD_RECORDS.map((k) => ({ value: k, label: k })),
        // It stays, as records have values of it.
        when: (v) => v['id'] === undefined,
        // What another kind of record knows is not known here.
        write: (on) => ({ on, shown: true, required: false, asked: [] }),
      },
      { name: 'kind', label: 'Holds', kind: 'choice', options: FIELD_KINDS.map((k) => ({ value: k, label: k })) },
      {
        name: 'choices',
        label: 'Of a choice: one a line',
        kind: 'lines',
        wide: true,
        when: (v) => v['kind'] === 'choice',
        read: (v) => textOf(v['choices']),
        write: (t) => ({ choices: linesOf(t) }),
      },
      { name: 'shown', label: 'Shown', kind: 'rule', wide: true, on: onOf },
      {
        name: 'required',
        label: 'Required',
        kind: 'rule',
        wide: true,
        on: onOf,
        // Only a ticket has several moments at which it can be asked for.
        write: (required, v) => (onOf(v) === 'ticket' ? { required } : { required, asked: required === false ? [] : ['saving'] }),
      },
      {
        name: 'asked',
        label: 'And then at',
        kind: 'many',
        wide: true,
        when: (v) => onOf(v) === 'ticket',
        options: MOMENTS_OF.ticket.map((m) => ({ value: m, label: m === 'moving' ? 'any move to another status' : m })),
      },
    ],
    add: (body) => api.call(ownFieldRoutes.addOwnField, { body }),
    edit: (row, version, body) => api.call(ownFieldRoutes.editOwnField, { params: { fieldId: row.id }, version, body }),
    archive: (row) => api.call(ownFieldRoutes.archiveOwnField, { params: { fieldId: row.id }, version: row.version }),
  };
}
