import { type OwnConditionForm, ownConditionRoutes } from '@core/desk';
import { isRefusal } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Work } from '../../app/work';
import { addHouseRecord, archiveHouseRecord, editHouseRecord } from '../../house';
import { readRule } from '../own-fields/known-facts';
const CONDITION = { table: 'own_condition', word: 'condition' };

/** The house's own conditions that stand in the way of moves. */
export function bindOwnConditions(app: App) {
  return bindRoutes(app, ownConditionRoutes, {
    listOwnConditions: async ({ db }) => ({
      conditions: await db('own_condition')
        .whereNull('archived_at')
        .orderBy('name')
        .select('id', 'version', 'name', 'kinds', 'moves', 'rule'),
    }),
    addOwnCondition: async ({ work, body }) => {
      const columns = await columnsOf(work, body);
      return isRefusal(columns) ? columns : addHouseRecord(work, CONDITION, columns);
    },
    editOwnCondition: async ({ work, params, version, body }) => {
      const columns = await columnsOf(work, body);
      return isRefusal(columns) ? columns : editHouseRecord(work, { record: CONDITION, id: params.conditionId, version, row: columns });
    },
    archiveOwnCondition: ({ work, params, version }) => archiveHouseRecord(work, { record: CONDITION, id: params.conditionId, version }),
  });
}

async function columnsOf(work: Work, form: OwnConditionForm) {
  const rule = await readRule(work.tx, { given: form.rule, on: 'ticket', place: 'rule' });
  return isRefusal(rule) ? rule : { ...form, rule: JSON.stringify(rule) };
}
