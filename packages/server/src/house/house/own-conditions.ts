import type { OwnConditionForm, houseRoutes } from '@core/house';
import { isRefusal } from '@core/ground';
import type { Handlers } from '../../app/bind-routes';
import type { Work } from '../../app/work';
import { readRule } from '../../desk/own-fields/known-facts';
import { addHouseRecord, archiveHouseRecord, editHouseRecord } from './house-record';

const CONDITION = { table: 'own_condition', word: 'condition' };
type Names = 'listOwnConditions' | 'addOwnCondition' | 'editOwnCondition' | 'archiveOwnCondition';

/** The house's own conditions that stand in the way of moves. */
export function bindConditions(): Pick<Handlers<typeof houseRoutes>, Names> {
  return {
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
      return isRefusal(columns) ? columns : editHouseRecord(work, CONDITION, params.conditionId, version, columns);
    },
    archiveOwnCondition: ({ work, params, version }) => archiveHouseRecord(work, CONDITION, params.conditionId, version),
  };
}

async function columnsOf(work: Work, form: OwnConditionForm) {
  const rule = await readRule(work.tx, form.rule, 'rule');
  return isRefusal(rule) ? rule : { ...form, rule: JSON.stringify(rule) };
}
