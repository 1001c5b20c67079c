import { type BillingTerms, type HouseTermsForm, houseTermsOf, type OwnTerms } from '@core/billing';
import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import { HOUSE_STORY } from '../../house';
import { readOwnTerms } from './read-terms';

/** Sets when clients without terms of their own are billed. */
export async function setHouseTerms(work: Work, version: number | undefined, form: HouseTermsForm): Promise<Outcome<{ version: number }>> {
  const terms = houseTermsOf(form);
  const changed = await changeRow(work, { table: 'house_billing_terms', id: '1', version, set: columnsOf(terms) });
  if (isRefusal(changed)) return changed;
  await work.tell('setup.billing-terms-set', HOUSE_STORY, terms);
  return { version: changed.version };
}

interface NewOwn {
  readonly clientId: Id<'client'>;
  readonly version: number | undefined;
  readonly own: OwnTerms;
}

/** Gives a client terms of its own. @param version that was seen, 0 where it had none; undefined where nobody looked */
export async function setClientTerms(work: Work, { clientId, version, own }: NewOwn): Promise<Outcome<{ version: number }>> {
  const client = await work.tx('client').where({ id: clientId }).forNoKeyUpdate().first('id');
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
