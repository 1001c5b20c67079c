import {
  billingDay,
  billingTermsRoutes,
  type BillingTerms,
  formOfOwnTerms,
  formOfTerms,
  type HouseTermsForm,
  houseTermsOf,
  nextBillingDay,
  type OwnTerms,
  ownTermsOf,
} from '@core/billing';
import { dateOf, type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { HOUSE_STORY } from '../../house';
import { workOutAnew } from '../runs/work-out-anew';
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

async function setHouseTerms(work: Work, version: number | undefined, form: HouseTermsForm): Promise<Outcome<{ version: number }>> {
  const terms = houseTermsOf(form);
  const changed = await changeRow(work, { table: 'house_billing_terms', id: '1', version, set: columnsOf(terms) });
  if (isRefusal(changed)) return changed;
  await work.tell('setup.billing-terms-set', HOUSE_STORY, terms);
  const again = await workOutAnew(work);
  return isRefusal(again) ? again : { version: changed.version };
}

interface NewOwn {
  readonly clientId: Id<'client'>;
  readonly version: number | undefined;
  readonly own: OwnTerms;
}

async function setClientTerms(work: Work, { clientId, version, own }: NewOwn): Promise<Outcome<{ version: number }>> {
  const client = await work.tx('client').where({ id: clientId }).forUpdate().first('id');
  if (!client) return refuse('not-found', 'There is no such client.');
  const stands = await readOwnTerms(work.tx, clientId);
  if (version !== undefined && version !== stands.version)
    return refuse('changed-meanwhile', 'Somebody changed when this client is billed meanwhile. Look at both and choose.');
  const next = stands.version + 1;
  const row = { client_id: clientId, ...columnsOf(own), version: next };
  await work.tx('client_billing_terms').insert(row).onConflict('client_id').merge();
  await work.tell('client.billing-terms-set', clientId, own);
  return { version: next };
}

function columnsOf({ rhythm, per, leadDays }: BillingTerms | OwnTerms) {
  const { every, weekday, day, month } = rhythm ?? { every: null, weekday: null, day: null, month: null };
  return { billed_every: every, weekday, day, month, per, lead_days: leadDays };
}
