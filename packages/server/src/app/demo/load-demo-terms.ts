import { NO_TERMS, type OwnTerms } from '@core/billing';
import { isRefusal } from '@core/ground';
import { setClientTerms } from '../../billing/billing-terms/set-terms';
import type { Work } from '../work';

/** Who is billed otherwise than the house does. */
const OWN: Readonly<Record<string, Partial<OwnTerms>>> = {
  'Brackwater Ferries': { per: 'contract' },
  'Quillfeather Press': { rhythm: { every: 'week', weekday: 5, day: null, month: null } },
};

export async function loadDemoTerms(work: Work): Promise<void> {
  for (const [name, own] of Object.entries(OWN)) {
    const client = (await work.tx('client').where({ name }).first('id'))!;
    const set = await setClientTerms(work, { clientId: client.id, version: undefined, own: { ...NO_TERMS, ...own } });
    if (isRefusal(set)) throw new Error(set.detail);
  }
}
