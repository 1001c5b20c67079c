import { internalWorkRoutes } from '@core/time';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { addHouseRecord, archiveHouseRecord, editHouseRecord } from '../../house/house/house-record';

const WORK = { table: 'internal_work', word: 'internal work' };

export function bindInternalWork(app: App) {
  return bindRoutes(app, internalWorkRoutes, {
    listInternalWork: async ({ db }) => ({
      work: await db('internal_work').whereNull('archived_at').orderByRaw('lower(name)').select('id', 'version', 'name'),
    }),
    addInternalWork: ({ work, body }) => addHouseRecord(work, WORK, body),
    editInternalWork: ({ work, params, version, body }) => editHouseRecord(work, WORK, params.workId, version, body),
    archiveInternalWork: ({ work, params, version }) => archiveHouseRecord(work, WORK, params.workId, version),
  });
}
