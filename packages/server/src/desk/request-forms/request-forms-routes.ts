import { refuse, type Outcome } from '@core/ground';
import { requestFormRoutes, type RequestFormForm } from '@core/desk';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Work } from '../../app/work';
import { addHouseRecord, archiveHouseRecord, editHouseRecord } from '../../house';
const FORM = { table: 'request_form', word: 'request form' };
const columnsOf = ({ categoryId, ...form }: RequestFormForm) => ({ ...form, category_id: categoryId });

export function bindRequestForms(app: App) {
  return bindRoutes(app, requestFormRoutes, {
    listRequestForms: async ({ db }) => {
      const rows = await db('request_form').whereNull('archived_at').orderByRaw('lower(name)');
      return {
        forms: rows.map((f) => ({
          id: f.id,
          version: f.version,
          name: f.name,
          path: f.path,
          intro: f.intro,
          kind: f.kind,
          categoryId: f.category_id,
          fields: [...f.fields],
          address: `${app.config.PUBLIC_URL}/request/${f.path}`,
        })),
      };
    },
    addRequestForm: async ({ work, body }) => (await barred(work, body, null)) ?? addHouseRecord(work, FORM, columnsOf(body)),
    editRequestForm: async ({ work, params, version, body }) =>
      (await barred(work, body, params.formId)) ??
      editHouseRecord(work, { record: FORM, id: params.formId, version, row: columnsOf(body) }),
    archiveRequestForm: ({ work, params, version }) => archiveHouseRecord(work, { record: FORM, id: params.formId, version }),
  });
}

async function barred(work: Work, form: RequestFormForm, own: string | null): Promise<Outcome<never> | undefined> {
  const taken = await work
    .tx('request_form')
    .where({ path: form.path })
    .whereNull('archived_at')
    .modify((q) => own && void q.whereNot({ id: own }))
    .first('name');
  if (taken) return refuse('invalid', `${taken.name} stands at that address already.`, { path: 'another address' });
  const foreign = await work.tx('own_field').whereIn('id', form.fields).whereNot({ on_record: 'ticket' }).first('name', 'on_record');
  if (foreign)
    return refuse('invalid', `${foreign.name} is a field of every ${foreign.on_record}, not of tickets.`, {
      fields: `not ${foreign.name}`,
    });
  const outside = await work.tx('own_field').whereIn('id', form.fields).whereIn('kind', ['person', 'asset']).first('name', 'kind');
  if (outside)
    return refuse('invalid', `${outside.name} names a ${outside.kind} of ours, which nobody outside may see.`, {
      fields: `not ${outside.name}`,
    });
  return undefined;
}
