import { billingDay, billingTermsRoutes, formOfOwnTerms, formOfTerms, nextBillingDay, ownTermsOf } from '@core/billing';
import { dateOf, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Row } from '../../app/rows';
import { setClientTerms, setHouseTerms } from './set-terms';
import { ownOf, readHouseTerms, readOwnTerms, readTerms } from './read-terms';

export function bindBillingTerms(app: App) {
  return bindRoutes(app, billingTermsRoutes, {
    getHouseTerms: async ({ db }) => {
      const { version, ...terms } = await readHouseTerms(db);
      const rows: (Row<'client_billing_terms'> & { readonly name: string })[] = await db('client_billing_terms as o')
        .join('client as c', 'c.id', 'o.client_id')
        .whereNull('c.archived_at')
        .whereRaw('coalesce(o.billed_every, o.per, o.lead_days::text) is not null')
        .orderBy('c.name')
        .select('o.*', 'c.name');
      return { version, ...formOfTerms(terms), clients: rows.map((r) => ({ clientId: r.client_id, client: r.name, own: ownOf(r) })) };
    },
    setHouseTerms: ({ work, version, body }) => setHouseTerms(work, version, body),
    getClientTerms: async ({ db, params: { clientId }, now }) => {
      if (!(await db('client').where({ id: clientId }).first('id'))) return refuse('not-found', 'There is no such client.');
      const { own, version } = await readOwnTerms(db, clientId);
      const terms = await readTerms(db, clientId);
      const today = dateOf(now, app.house.house.zone);
      return {
        version,
        own: formOfOwnTerms(own),
        holds: {
          ...formOfTerms(terms),
          billedAsOf: billingDay(terms.rhythm, today),
          nextDay: nextBillingDay(terms.rhythm, today),
        },
      };
    },
    setClientTerms: ({ work, params, version, body }) => setClientTerms(work, { ...params, version, own: ownTermsOf(body) }),
  });
}
