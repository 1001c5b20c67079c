import { inject } from '@angular/core';
import { map } from 'rxjs';
import { clockEffectWords, NAMED_STATUSES, ownStatusFormSchema, statusRoutes, WAITS_FOR, type OwnStatusWire } from '@core/desk';
import type { SetupRow, SetupSection } from '../../ui/setup-list';
import { Api } from '../../shell/api';

type Row = OwnStatusWire & SetupRow;
const plain = (values: readonly string[]) => values.map((v) => ({ value: v, label: v }));

/** Statuses and hold reasons in Setup; called where injection is possible. */
export function statusesSection(): SetupSection<Row, typeof ownStatusFormSchema> {
  const api = inject(Api);
  return {
    heading: 'Statuses and hold reasons',
    intro:
      'Every ticket is new, queued, booked, underway, on hold, resolved or closed. Give queued, underway and on hold names of your own; the clocks do what the status does that it stands for.',
    addWords: 'Add a status',
    none: 'No name of your own yet. Add one where the desk needs to tell apart, such as "parts ordered" for on hold, waiting for a supplier.',
    rows: () =>
      api.call(statusRoutes.listOwnStatuses, {}).pipe(
        map(({ statuses }) =>
          statuses.map((s) => ({
            ...s,
            says: `stands for ${s.standsFor}${s.waitsFor ? `, waiting for the ${s.waitsFor}` : ''}: ${clockEffectWords(s.standsFor)}`,
          })),
        ),
      ),
    draft: 'own-status',
    schema: ownStatusFormSchema,
    fresh: () => ({ name: '', standsFor: 'on hold', waitsFor: null }),
    lines: () => [
      { name: 'name', label: 'Name' },
      {
        name: 'standsFor',
        label: 'Stands for',
        kind: 'choice',
        options: plain(NAMED_STATUSES),
        write: (standsFor) => ({ standsFor, waitsFor: null }),
      },
      { name: 'waitsFor', label: 'Waits for', kind: 'choice', options: plain(WAITS_FOR), when: (v) => v['standsFor'] === 'on hold' },
    ],
    add: (body) => api.call(statusRoutes.addOwnStatus, { body }),
    edit: (row, version, body) => api.call(statusRoutes.editOwnStatus, { params: { statusId: row.id }, version, body }),
    archive: (row) => api.call(statusRoutes.archiveOwnStatus, { params: { statusId: row.id }, version: row.version }),
  };
}
