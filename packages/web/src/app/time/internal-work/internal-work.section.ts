import { inject } from '@angular/core';
import { map } from 'rxjs';
import { internalWorkFormSchema, internalWorkRoutes, type InternalWorkWire } from '@core/time';
import type { SetupRow, SetupSection } from '../../ui/setup-list';
import { Api } from '../../shell/api';

type Row = InternalWorkWire & SetupRow;

/** Internal work in Setup; called where injection is possible. */
export function internalWorkSection(): SetupSection<Row, typeof internalWorkFormSchema> {
  const api = inject(Api);
  return {
    heading: 'Internal work',
    intro: 'What time is recorded on that belongs to no ticket: meetings, training, the vans. It is charged to nobody.',
    addWords: 'Add internal work',
    none: 'No internal work yet. Add one, such as Training.',
    rows: () => api.call(internalWorkRoutes.listInternalWork, {}).pipe(map(({ work }) => work.map((w) => ({ ...w, says: '' })))),
    draft: 'internal-work',
    schema: internalWorkFormSchema,
    fresh: () => ({ name: '' }),
    lines: () => [{ name: 'name', label: 'Name' }],
    add: (body) => api.call(internalWorkRoutes.addInternalWork, { body }),
    edit: (row, version, body) => api.call(internalWorkRoutes.editInternalWork, { params: { internalWorkId: row.id }, version, body }),
    archive: (row) => api.call(internalWorkRoutes.archiveInternalWork, { params: { internalWorkId: row.id }, version: row.version }),
  };
}
