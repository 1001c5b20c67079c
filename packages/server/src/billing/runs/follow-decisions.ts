import type { Id, Outcome } from '@core/ground';
import type { Work } from '../../app/work';
import { followRun } from './fit-run-invoice';

/** A charge was decided on: the open run follows. */
export async function followDecision(work: Work, chargeId: string): Promise<Outcome<unknown>> {
  const clients: Id<'client'>[] = await work.tx('charge').where({ id: chargeId }).pluck('client_id');
  await followRun(work, clients);
  return {};
}

/** Many were decided on at once. */
export async function followApproval(work: Work, batchId: string): Promise<Outcome<unknown>> {
  const clients: Id<'client'>[] = await work
    .tx('charge')
    .whereIn('id', work.tx('charge_decision').where({ batch_id: batchId }).select('charge_id'))
    .distinct()
    .pluck('client_id');
  await followRun(work, clients);
  return {};
}

/** A document bills what the run would have billed, or is the one to compare with. */
export async function followDocument(work: Work, invoiceId: string): Promise<Outcome<unknown>> {
  const clients: Id<'client'>[] = await work.tx('invoice').where({ id: invoiceId }).pluck('client_id');
  await followRun(work, clients);
  return {};
}

/** What recurs of a contract was brought to the facts. */
export async function followContract(work: Work, contractId: string): Promise<Outcome<unknown>> {
  const clients: Id<'client'>[] = await work.tx('contract').where({ id: contractId }).pluck('client_id');
  await followRun(work, clients);
  return {};
}
