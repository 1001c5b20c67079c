import { string } from 'yup';
import { count, defineRoutes, done, id, list, optionalId, optionalText, record, text, type Wire } from '../routes';

export const assetFields = {
  number: text(40),
  name: text(120),
  clientId: id(),
  siteId: optionalId(),
  contactId: optionalId(),
  make: optionalText(80),
};
export const assetFormSchema = record(assetFields);
export type AssetForm = Wire<typeof assetFormSchema>;
export const assetSchema = record({
  id: id(),
  version: count(),
  ...assetFields,
  client: text(),
  site: optionalText(),
  contact: optionalText(),
  openTickets: count(),
});
export type AssetWire = Wire<typeof assetSchema>;

export const assetRoutes = defineRoutes({
  listAssets: {
    method: 'GET',
    path: '/assets',
    summary: 'Assets, of one client if named',
    permission: 'clients.read',
    query: record({ clientId: string().uuid(), q: string().max(100) }),
    answer: record({ assets: list(assetSchema) }),
  },
  getAsset: { method: 'GET', path: '/assets/:assetId', summary: 'An asset', permission: 'clients.read', answer: assetSchema },
  createAsset: {
    method: 'POST',
    path: '/assets',
    summary: 'Add an asset',
    permission: 'assets.edit',
    body: assetFormSchema,
    answer: done(),
  },
  editAsset: {
    method: 'PUT',
    path: '/assets/:assetId',
    summary: 'Change an asset',
    permission: 'assets.edit',
    versioned: true,
    body: assetFormSchema,
    answer: done(),
  },
});
