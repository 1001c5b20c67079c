import { refuse } from '@core/ground';
import { internalWorkRoutes } from '@core/time';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { addHouseRecord, archiveHouseRecord, editHouseRecord } from '../../house';
const WORK = { table: 'internal_work', word: 'internal work' };

export function bindInternalWork(app: App) {
  return bindRoutes(app, internalWorkRoutes, {
    listInternalWork: async ({ db }) => ({
      work: await db('internal_work').whereNull('archived_at').orderByRaw('lower(name)').select('id', 'version', 'name'),
    }),
    addInternalWork: ({ work, body }) => addHouseRecord(work, WORK, body),
    editInternalWork: ({ work, params, version, body }) =>
      editHouseRecord(work, { record: WORK, id: params.internalWorkId, version, row: body }),
    archiveInternalWork: async ({ work, params, version }) => {
      const row = await work.tx('internal_work').where({ id: params.internalWorkId }).first('general', 'name');
      if (row?.general) return refuse('not-possible-now', `${row.name} is what time without a name is recorded on; it stays.`);
      return archiveHouseRecord(work, { record: WORK, id: params.internalWorkId, version });
    },
  });
}
