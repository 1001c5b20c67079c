import { string } from 'yup';
import {
  anyId,
  count,
  defineRoutes,
  done,
  id,
  list,
  optionalId,
  optionalText,
  pageOf,
  pageQuery,
  record,
  earlierStory,
  storySchema,
  text,
  type Wire,
  yes,
} from '../../ground';
import { fieldValuesSchema, shownFieldSchema } from '../../desk';

export const assetFields = {
  number: text(40),
  name: text(120),
  clientId: id('client'),
  siteId: optionalId('site'),
  contactId: optionalId('contact'),
  make: optionalText(80),
};
export const assetFormSchema = record({ ...assetFields, fields: fieldValuesSchema().default([]) });
export type AssetForm = Wire<typeof assetFormSchema>;
const rowFields = {
  id: id('asset'),
  version: count(),
  ...assetFields,
  client: text(),
  site: optionalText(),
  contact: optionalText(),
  openTickets: count(),
  archived: yes(),
};
export const assetRowSchema = record(rowFields);
export type AssetRowWire = Wire<typeof assetRowSchema>;
export const assetSchema = record({ ...rowFields, fields: list(shownFieldSchema), story: list(storySchema) });
export type AssetWire = Wire<typeof assetSchema>;
export const ASSET_SORTS = ['number', 'name', 'client', 'tickets'] as const;
export const assetFilterSchema = pageQuery(ASSET_SORTS, {
  q: string().max(100),
  clientId: anyId(),
  siteId: anyId(),
  contactId: anyId(),
  archived: string().oneOf(['yes']),
});
export type AssetFilter = Wire<typeof assetFilterSchema>;

export const assetRoutes = defineRoutes({
  listAssets: {
    method: 'GET',
    path: '/assets',
    summary: 'Assets by filter, sorted, in pages',
    permission: 'clients.read',
    query: assetFilterSchema,
    answer: pageOf(assetRowSchema),
  },
  getAssetStory: {
    method: 'GET',
    path: '/assets/:assetId/story',
    summary: 'What happened to an asset before an event that is known',
    permission: 'clients.read',
    ...earlierStory,
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
  archiveAsset: {
    method: 'POST',
    path: '/assets/:assetId/archive',
    summary: 'Put an asset away, or bring it back',
    permission: 'assets.edit',
    versioned: true,
    body: record({ archived: yes() }),
    answer: done(),
  },
});
