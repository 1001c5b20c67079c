import { type Id, type Outcome, refuse } from '@core/ground';
import { statusRoutes, type OwnStatusForm } from '@core/desk';
import { countOf } from '../../app/database';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Work } from '../../app/work';
import { addHouseRecord, archiveHouseRecord, editHouseRecord } from '../../house';
const STATUS = { table: 'own_status', word: 'status' };
const columnsOf = (form: OwnStatusForm) => ({ name: form.name, stands_for: form.standsFor, waits_for: form.waitsFor });

export function bindStatuses(app: App) {
  return bindRoutes(app, statusRoutes, {
    listOwnStatuses: async ({ db }) => {
      const rows = await db('own_status').whereNull('archived_at').orderBy('position');
      return {
        statuses: rows.map((s) => ({ id: s.id, version: s.version, name: s.name, standsFor: s.stands_for, waitsFor: s.waits_for })),
      };
    },
    addOwnStatus: ({ work, body }) => addHouseRecord(work, STATUS, columnsOf(body)),
    editOwnStatus: async ({ work, params, version, body }) =>
      (await otherEffect(work, params.statusId, body)) ??
      editHouseRecord(work, { record: STATUS, id: params.statusId, version, row: columnsOf(body) }),
    archiveOwnStatus: ({ work, params, version }) => archiveHouseRecord(work, { record: STATUS, id: params.statusId, version }),
  });
}

/** What a status does to clocks never changes under tickets that have it. */
async function otherEffect(work: Work, id: Id<'own_status'>, form: OwnStatusForm): Promise<Outcome<never> | undefined> {
  const was = await work.tx('own_status').where({ id }).first('stands_for', 'waits_for', 'name');
  if (!was || (was.stands_for === form.standsFor && was.waits_for === form.waitsFor)) return undefined;
  const n = await countOf(work.tx('ticket').where({ own_status_id: id }));
  if (!n) return undefined;
  return refuse('not-possible-now', `${n} tickets are ${was.name}, and their clocks would change. Put it away and add another.`, {
    standsFor: was.stands_for,
  });
}
