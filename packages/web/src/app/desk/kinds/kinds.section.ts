import { inject } from '@angular/core';
import { map } from 'rxjs';
import { kindRoutes, ownKindFormSchema, type OwnKindWire, SORTED_KINDS } from '@core/desk';
import type { SetupRow, SetupSection } from '../../ui/setup-list';
import { Api } from '../../shell/api';

/** Kinds under the house's own names, in Setup; called where injection is possible. */
export function kindsSection(): SetupSection<OwnKindWire & SetupRow, typeof ownKindFormSchema> {
  const api = inject(Api);
  return {
    heading: 'Kinds of your own',
    intro:
      'A kind under a name of your own does all that the kind does that it stands for: promise, checks, billing. Own fields can be shown for it alone.',
    addWords: 'Add a kind',
    none: 'No kind of your own yet. Add one where the desk says it differently, such as "loan device" for a service request.',
    rows: () =>
      api.call(kindRoutes.listOwnKinds, {}).pipe(map(({ kinds }) => kinds.map((k) => ({ ...k, says: `stands for ${k.standsFor}` })))),
    draft: 'own-kind',
    schema: ownKindFormSchema,
    fresh: () => ({ name: '', standsFor: 'service request' }),
    lines: () => [
      { name: 'name', label: 'Name' },
      { name: 'standsFor', label: 'Stands for', kind: 'choice', options: SORTED_KINDS.map((k) => ({ value: k, label: k })) },
    ],
    add: (body) => api.call(kindRoutes.addOwnKind, { body }),
    edit: (row, version, body) => api.call(kindRoutes.editOwnKind, { params: { ownKindId: row.id }, version, body }),
    archive: (row) => api.call(kindRoutes.archiveOwnKind, { params: { ownKindId: row.id }, version: row.version }),
  };
}
