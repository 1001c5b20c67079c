import { assetFacts, assetRoutes, type AssetForm } from '@core/clients';
import { changesOf, type Id, isRefusal, type Refusal, refuse } from '@core/ground';
import { readStory } from '../../app/read-story';
import type { App } from '../../app/app';
import { archiveRow } from '../../app/archive-row';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { fieldChanges, fieldsToSave, type OwnValues, withoutAssets } from '../../desk';
import { listAssets, readAsset } from './asset-read-model';

export function bindAssets(app: App) {
  const book = app.house;
  const ownFields = (work: Work, form: AssetForm, was: OwnValues) =>
    fieldsToSave(work, book, { on: 'asset', given: form.fields, was, clientId: form.clientId, facts: assetFacts(form) });
  return bindRoutes(app, assetRoutes, {
    listAssets: ({ db, query }) => listAssets(db, query),
    getAssetStory: async ({ db, params, query }) => ({
      story: await readStory(db, { subject: 'asset', id: params.assetId, before: query.before }),
    }),
    getAsset: ({ db, params }) => readAsset(db, book, params.assetId),
    createAsset: async ({ work, body }) => {
      const wrong = await check(work, body, undefined);
      if (wrong) return wrong;
      const fields = await ownFields(work, body, {});
      if (isRefusal(fields)) return fields;
      const [row] = await work
        .tx('asset')
        .insert({ ...columns(body), fields: JSON.stringify(fields), since: at(work.now) })
        .returning(['id', 'version']);
      await work.tell('asset.added', row!.id, { number: body.number });
      return row!;
    },
    editAsset: async ({ work, params, version, body }) => {
      const wrong = await check(work, body, params.assetId);
      if (wrong) return wrong;
      const asset = await work.tx('asset').where({ id: params.assetId }).first();
      if (!asset) return refuse('not-found', 'There is no such asset.');
      const fields = await ownFields(
        work,
        body,
        asset.client_id === body.clientId ? asset.fields : withoutAssets(book, 'asset', asset.fields),
      );
      if (isRefusal(fields)) return fields;
      const set = { ...columns(body), fields: JSON.stringify(fields) };
      const changed = await changeRow(work, { table: 'asset', id: params.assetId, version, set });
      if (isRefusal(changed)) return changed;
      const changes = changesOf(asset, columns(body));
      await work.tell('asset.changed', params.assetId, {
        changes,
        fields: fieldChanges(book, { on: 'asset', was: asset.fields, now: fields }),
      });
      return changed;
    },
    archiveAsset: ({ work, params, version, body }) =>
      archiveRow(work, { table: 'asset', subject: 'asset', id: params.assetId, version, archived: body.archived }),
  });
}

async function check(work: Work, form: AssetForm, assetId: Id<'asset'> | undefined): Promise<Refusal | undefined> {
  const taken = await work
    .tx('asset')
    .where({ number: form.number })
    .modify((q) => assetId && void q.whereNot({ id: assetId }))
    .first('name');
  if (taken)
    return refuse('already-used', `The number ${form.number} is taken by ${taken.name}.`, { number: 'a number that no other asset has' });
  const contact = form.contactId ? await work.tx('contact').where({ id: form.contactId, client_id: form.clientId }).first('id') : true;
  if (!contact) return refuse('invalid', 'The contact is not of this client.', { contactId: 'choose a contact of the client' });
  const site = form.siteId ? await work.tx('site').where({ id: form.siteId, client_id: form.clientId }).first('id') : true;
  return site ? undefined : refuse('invalid', 'The site is not of this client.', { siteId: 'choose a site of the client' });
}

function columns(form: AssetForm) {
  return {
    number: form.number,
    name: form.name,
    client_id: form.clientId,
    site_id: form.siteId,
    contact_id: form.contactId,
    make: form.make,
  };
}
