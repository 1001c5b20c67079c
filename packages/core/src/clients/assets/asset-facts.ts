import type { Fact, FactValue } from '../../ground';
import type { AssetForm } from './assets-wire';

/** What a condition on an asset's own fields can speak of. */
export const ASSET_FACTS: Readonly<Record<string, Fact>> = {
  'asset.name': { label: 'name', shape: 'words' },
  'asset.make': { label: 'make', shape: 'words' },
  'asset.client': { label: 'client', shape: 'client' },
  'asset.site': { label: 'a site is named', shape: 'yes/no' },
  'asset.contact': { label: 'somebody uses it', shape: 'yes/no' },
};

/** The facts of an asset as it is, or as it is about to be saved. */
export function assetFacts({ name, make, clientId, siteId, contactId }: Omit<AssetForm, 'number' | 'fields'>): Record<string, FactValue> {
  return { name, make, client: clientId, site: siteId !== null, contact: contactId !== null };
}
