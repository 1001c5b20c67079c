import type { ContractEvents } from '@core/contracts';
import { type Id, type LocalDate, type Outcome, parseLocalDate } from '@core/ground';
import type { Work } from '../../app/work';
import { at } from '../../app/database';
import { spanOfDates } from '../../house';
import { chargeEntries } from './charge-entry';

/**
 * What a contract says of work has changed: all work of its client that it has or could have now is rated anew, but for what
 * a decision stands on.
 */
export async function chargeContractAnew(work: Work, contractId: Id<'contract'>): Promise<Outcome<unknown>> {
  return chargeAnewFrom(work, contractId, null);
}

/** Where its start moved, other contracts may have the days that it had, or that it shared with them. */
export async function chargeChangedContract(
  work: Work,
  contractId: Id<'contract'>,
  { changes }: ContractEvents['contract.changed'],
): Promise<Outcome<unknown>> {
  const [was] = changes['starts_on'] ?? [];
  return chargeAnewFrom(work, contractId, typeof was === 'string' ? parseLocalDate(was) : null);
}

async function chargeAnewFrom(work: Work, contractId: Id<'contract'>, earlier: LocalDate | null): Promise<Outcome<unknown>> {
  const contract = (await work.tx('contract').where({ id: contractId }).first())!;
  if (contract.agreed_at === null) return {};
  const start = earlier !== null && earlier < contract.starts_on ? earlier : contract.starts_on;
  const { from } = spanOfDates(work.book, start, start);
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
