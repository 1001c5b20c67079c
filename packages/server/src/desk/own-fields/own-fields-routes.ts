import { isRefusal, refuse } from '@core/ground';
import { ownFieldRoutes, type OwnFieldForm } from '@core/desk';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Work } from '../../app/work';
import { addHouseRecord, archiveHouseRecord, editHouseRecord } from '../../house/house/house-record';
import { readRule } from './known-facts';
import { setTicketFields } from './ticket-fields';

const FIELD = { table: 'own_field', word: 'field' };

export function bindOwnFields(app: App) {
  return bindRoutes(app, ownFieldRoutes, {
    listOwnFields: async ({ db }) => {
      const rows = await db('own_field').whereNull('archived_at').orderBy('position');
      return {
        fields: rows.map(({ id, version, name, kind, choices, shown, required, asked }) => ({
          id,
          version,
          name,
          kind,
          choices,
          shown,
          required,
          asked,
        })),
      };
    },
    addOwnField: async ({ work, body }) => {
      const columns = await columnsOf(work, body);
      return isRefusal(columns) ? columns : addHouseRecord(work, FIELD, columns);
    },
    editOwnField: async ({ work, params, version, body }) => {
      const was = await work.tx('own_field').where({ id: params.fieldId }).first('kind', 'name');
      if (was && was.kind !== body.kind)
        return refuse('invalid', `${was.name} is a ${was.kind}, and tickets have values of it. Put it away and add another.`, {
          kind: was.kind,
        });
      const columns = await columnsOf(work, body);
      return isRefusal(columns) ? columns : editHouseRecord(work, FIELD, params.fieldId, version, columns);
    },
    archiveOwnField: ({ work, params, version }) => archiveHouseRecord(work, FIELD, params.fieldId, version),
    setTicketFields: ({ work, params, version, body }) => setTicketFields(work, app.house, params.ticketId, version, body.values),
  });
}

async function columnsOf(work: Work, form: OwnFieldForm) {
  if (form.kind === 'choice' && form.choices.length < 2)
    return refuse('invalid', 'A choice needs at least two things to choose from.', { choices: 'at least two' });
  const shown = await readRule(work.tx, form.shown, 'shown');
  if (isRefusal(shown)) return shown;
  const required = await readRule(work.tx, form.required, 'required');
  if (isRefusal(required)) return required;
  return { ...form, choices: form.kind === 'choice' ? form.choices : [], shown: JSON.stringify(shown), required: JSON.stringify(required) };
}
