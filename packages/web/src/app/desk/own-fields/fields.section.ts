import { inject } from '@angular/core';
import { forkJoin, map } from 'rxjs';
import { sayWhen } from '@core/ground';
import { FIELD_KINDS, FIELD_MOMENTS, ownFieldFormSchema, ownFieldRoutes, type OwnFieldWire } from '@core/desk';
import { ruleNames } from '../../ground/conditions/rule-names';
import { KnownFacts } from '../../ground/conditions/known-facts';
import type { SetupRow, SetupSection } from '../../house/house/setup-list';
import { Api } from '../../shell/api';
import { linesOf, textOf } from '../../ui/one-a-line';

type Row = OwnFieldWire & SetupRow;

/** Own fields in Setup; called where injection is possible. */
export function fieldsSection(): SetupSection<Row, typeof ownFieldFormSchema> {
  const [api, facts] = [inject(Api), inject(KnownFacts)];
  return {
    heading: 'Own fields',
    intro: 'What a ticket is asked for besides what every ticket has: where it is shown, and when it must be filled.',
    addWords: 'Add a field',
    none: 'No own field yet. Add one where a kind of ticket needs to know more, such as the day a new person starts.',
    rows: () =>
      forkJoin([api.call(ownFieldRoutes.listOwnFields, {}), facts.facts$]).pipe(
        map(([{ fields }, known]) => {
          const names = ruleNames(known);
          return fields.map((f) => ({
            ...f,
            says: [
              f.kind === 'choice' ? `choice of ${f.choices.join(', ')}` : f.kind,
              `shown ${sayWhen(f.shown, names)}`,
              ...(f.asked.length ? [`required ${sayWhen(f.required, names)}, at ${f.asked.join(', ')}`] : ['never required']),
            ].join('; '),
          }));
        }),
      ),
    draft: 'own-field',
    schema: ownFieldFormSchema,
    fresh: () => ({ name: '', kind: 'text', choices: [], shown: true, required: false, asked: [] }),
    lines: () => [
      { name: 'name', label: 'Name' },
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
      { name: 'shown', label: 'Shown', kind: 'rule', wide: true },
      { name: 'required', label: 'Required', kind: 'rule', wide: true },
      {
        name: 'asked',
        label: 'And then at',
        kind: 'many',
        wide: true,
        options: FIELD_MOMENTS.map((m) => ({ value: m, label: m === 'moving' ? 'any move to another status' : m })),
      },
    ],
    add: (body) => api.call(ownFieldRoutes.addOwnField, { body }),
    edit: (row, version, body) => api.call(ownFieldRoutes.editOwnField, { params: { fieldId: row.id }, version, body }),
    archive: (row) => api.call(ownFieldRoutes.archiveOwnField, { params: { fieldId: row.id }, version: row.version }),
  };
}
