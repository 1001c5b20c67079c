import { inject } from '@angular/core';
import { map } from 'rxjs';
import { clientRoutes, type ClientWire, siteFormSchema, type SiteWire } from '@core/clients';
import { Api } from '../../shell/api';
import type { Line, RecordForm } from '../../ui/record-form';

export const SITE_LINES: readonly Line[] = [
  { name: 'name', label: 'Name' },
  { name: 'street', label: 'Street' },
  { name: 'city', label: 'City' },
  { name: 'postcode', label: 'Postcode' },
  { name: 'latitude', label: 'Degrees north', placeholder: '52.26' },
  { name: 'longitude', label: 'Degrees east', placeholder: '-7.11' },
  { name: 'directions', label: 'How to get in', placeholder: 'ring at the side door', wide: true },
];

/** The forms that add and change a client's sites; called where injection is possible. */
export function siteForms() {
  const api = inject(Api);
  return {
    addSite: (client: ClientWire): RecordForm<typeof siteFormSchema> => ({
      schema: siteFormSchema,
      initial: {},
      draft: `new-site.${client.id}`,
      does: 'Add the site',
      save: (body) => api.call(clientRoutes.addSite, { params: { clientId: client.id }, body }),
    }),
    changeSite: (client: ClientWire, site: SiteWire): RecordForm<typeof siteFormSchema> => ({
      schema: siteFormSchema,
      initial: { ...site },
      draft: `site.${site.id}`,
      does: 'Save',
      version: site.version,
      save: (body, version) => api.call(clientRoutes.editSite, { params: { siteId: site.id }, version: version!, body }),
      stored: () =>
        api
          .call(clientRoutes.getClient, { params: { clientId: client.id } })
          .pipe(map((c) => c.sites.find((s) => s.id === site.id) ?? site)),
    }),
  };
}
