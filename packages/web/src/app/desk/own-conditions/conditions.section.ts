import { inject } from '@angular/core';
import { forkJoin, map } from 'rxjs';
import { sayWhen } from '@core/ground';
import { CHECKED_MOVES, ownConditionFormSchema, ownConditionRoutes, type OwnConditionWire, SORTED_KINDS } from '@core/desk';
import { KnownFacts, ruleNames } from '../../ground';
import { Api } from '../../shell/api';
import type { SetupRow, SetupSection } from '../../ui/setup-list';

type Row = OwnConditionWire & SetupRow;
const plain = (values: readonly string[]) => values.map((v) => ({ value: v, label: v }));

/** The house's own conditions in Setup; called where injection is possible. */
export function conditionsSection(): SetupSection<Row, typeof ownConditionFormSchema> {
  const [api, facts] = [inject(Api), inject(KnownFacts)];
  return {
    heading: 'Own conditions',
    intro: 'While one holds, it stands in the way of the moves that it names, beside the closing checks of Setup.',
    addWords: 'Add a condition',
    none: 'No own condition yet. Add one for what must never happen, such as a P1 resolved without words on what was done.',
    rows: () =>
      forkJoin([api.call(ownConditionRoutes.listOwnConditions, {}), facts.of('ticket')]).pipe(
        map(([{ conditions }, known]) =>
          conditions.map((c) => ({
            ...c,
            says: `${c.kinds.length ? c.kinds.join(', ') : 'every kind'} before ${c.moves.join(', ')} ${sayWhen(c.rule, ruleNames(known))}`,
          })),
        ),
      ),
    draft: 'own-condition',
    schema: ownConditionFormSchema,
    fresh: () => ({
      name: '',
      moves: ['resolved'],
      kinds: [],
      rule: { and: [{ '===': [{ var: 'ticket.priority' }, 'P1'] }, { '!': [{ var: 'ticket.resolution' }] }] },
    }),
    lines: () => [
      { name: 'name', label: 'What it says when it stands in the way', wide: true },
      { name: 'moves', label: 'Before it becomes', kind: 'many', wide: true, options: plain(CHECKED_MOVES) },
      { name: 'kinds', label: 'Of these kinds; of all where none is chosen', kind: 'many', wide: true, options: plain(SORTED_KINDS) },
      { name: 'rule', label: 'It stands in the way', kind: 'rule', wide: true },
    ],
    add: (body) => api.call(ownConditionRoutes.addOwnCondition, { body }),
    edit: (row, version, body) => api.call(ownConditionRoutes.editOwnCondition, { params: { conditionId: row.id }, version, body }),
    archive: (row) => api.call(ownConditionRoutes.archiveOwnCondition, { params: { conditionId: row.id }, version: row.version }),
  };
}
