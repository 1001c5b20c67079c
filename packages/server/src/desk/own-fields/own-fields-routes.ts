import { isRefusal, type Refusal, refuse } from '@core/ground';
import { type FieldRecord, MOMENTS_OF, type OwnFieldForm, ownFieldRoutes, type OwnFieldWire } from '@core/desk';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { addHouseRecord, archiveHouseRecord, editHouseRecord } from '../../house';
import { readRule } from './known-facts';

const FIELD = { table: 'own_field', word: 'field' };
const fieldOn = (on: FieldRecord) => ({ ...FIELD, among: { on_record: on } });

export function bindOwnFields(app: App) {
  return bindRoutes(app, ownFieldRoutes, {
    listOwnFields: async ({ db, query }) => {
      const fields: OwnFieldWire[] = await db('own_field')
        .whereNull('archived_at')
        .modify((q) => query.on && void q.where({ on_record: query.on }))
        .orderBy('position')
        .select('id', 'version', 'on_record as on', 'name', 'kind', 'choices', 'shown', 'required', 'asked');
      return { fields };
    },
    addOwnField: async ({ work, body }) => {
      const columns = await columnsOf(work, body);
      return isRefusal(columns) ? columns : addHouseRecord(work, fieldOn(body.on), columns);
    },
    editOwnField: async ({ work, params, version, body }) => {
      const was = await work.tx('own_field').where({ id: params.fieldId }).first('on_record', 'kind', 'name');
      const fixed = was && alreadySo(was, body);
      if (fixed) return fixed;
      const columns = await columnsOf(work, body);
      return isRefusal(columns) ? columns : editHouseRecord(work, { record: fieldOn(body.on), id: params.fieldId, version, row: columns });
    },
    archiveOwnField: ({ work, params, version }) => archiveHouseRecord(work, { record: FIELD, id: params.fieldId, version }),
  });
}

/** What a field holds and what it is on stay, since records have values of it. */
function alreadySo(was: Row<'own_field', 'on_record' | 'name' | 'kind'>, body: OwnFieldForm): Refusal | undefined {
  const another = 'Put it away and add another.';
  if (was.on_record !== body.on)
    return refuse('invalid', `${was.name} is a field of every ${was.on_record}, and some have values of it. ${another}`, {
      on: was.on_record,
    });
  if (was.kind === body.kind) return undefined;
  return refuse('invalid', `${was.name} is a ${was.kind}, and ${was.on_record}s have values of it. ${another}`, {
    kind: was.kind,
  });
}

async function columnsOf(work: Work, form: OwnFieldForm) {
  const { on, choices, ...rest } = form;
  if (form.kind === 'choice' && choices.length < 2)
    return refuse('invalid', 'A choice needs at least two things to choose from.', { choices: 'at least two' });
  const other = form.asked.find((m) => !MOMENTS_OF[on].includes(m));
  if (other)
    return refuse('invalid', `A field on every ${on} cannot be asked for at ${other}: ${MOMENTS_OF[on].join(', ')} is allowed.`, {
      asked: MOMENTS_OF[on].join(', '),
    });
  const shown = await readRule(work.tx, { given: form.shown, on, place: 'shown' });
  if (isRefusal(shown)) return shown;
  const required = await readRule(work.tx, { given: form.required, on, place: 'required' });
  if (isRefusal(required)) return required;
  return {
    ...rest,
    on_record: on,
    choices: form.kind === 'choice' ? choices : [],
    shown: JSON.stringify(shown),
    required: JSON.stringify(required),
  };
}
