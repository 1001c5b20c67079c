import type { Id, Outcome } from '@core/ground';
import type { Work } from '../../app/work';
import { at } from '../../app/database';
import { spanOfDates } from '../../house';
import { chargeEntries } from './charge-entry';

/**
 * What a contract says has changed: all work of its client that it has or could have now is rated anew, but for what a
 * decision stands on.
 */
export async function chargeContractAnew(work: Work, contractId: Id<'contract'>): Promise<Outcome<unknown>> {
  const contract = (await work.tx('contract').where({ id: contractId }).first())!;
  if (contract.agreed_at === null) return {};
  const { from } = spanOfDates(work.book, contract.starts_on, contract.starts_on);
  const ids: string[] = await work
    .tx('time_entry')
    .where({ client_id: contract.client_id })
    .whereNull('corrects')
    .whereNull('removed_at')
    .where((q) => void q.where({ contract_id: contractId }).orWhere('starts_at', '>=', at(from)))
    .pluck('id');
  await chargeEntries(work, work.book, ids);
  return {};
}
