import { assetRoutes, type AssetForm } from '@core/clients';
import { isRefusal, refuse, type Refusal } from '@core/ground';
import type { App } from '../../app/app';
import { archiveRow } from '../../app/archive-row';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { listAssets, readAsset } from './asset-read-model';

export function bindAssets(app: App) {
  return bindRoutes(app, assetRoutes, {
    listAssets: ({ db, query }) => listAssets(db, query),
    getAsset: ({ db, params }) => readAsset(db, params.assetId),
    createAsset: async ({ work, body }) => {
      const wrong = await check(work, body, undefined);
      if (wrong) return wrong;
      const [row] = await work
        .tx('asset')
        .insert({ ...columns(body), since: at(work.now) })
        .returning(['id', 'version']);
      await work.tell('asset.added', row.id, { number: body.number });
      return row;
    },
    editAsset: async ({ work, params, version, body }) => {
      const wrong = await check(work, body, params.assetId);
      if (wrong) return wrong;
      const changed = await changeRow(work, { table: 'asset', id: params.assetId, version, set: columns(body) });
      if (!isRefusal(changed)) await work.tell('asset.changed', params.assetId, {});
      return changed;
    },
    archiveAsset: ({ work, params, version, body }) =>
      archiveRow(work, { table: 'asset', subject: 'asset', id: params.assetId, version, archived: body.archived }),
  });
}

async function check(work: Work, form: AssetForm, assetId: string | undefined): Promise<Refusal | undefined> {
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
