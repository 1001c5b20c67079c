import type { Id, Outcome } from '@core/ground';
import type { Work } from '../../app/work';
import { proposeDue } from '../recurring-charges/propose-recurring';
import { followRun } from './fit-run-invoices';
import { isLookedAt, openRun } from './open-run';
import { proposeDueOfClient } from './prepare-run';
import { readRunClient } from './run-client';

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

/** What recurs of a contract changed: in the run that is open all of it is due that is due by its day. */
export async function followContract(work: Work, contractId: string): Promise<Outcome<unknown>> {
  const run = await openRun(work.tx);
  if (!run) return {};
  const contract = await work.tx('contract').where({ id: contractId }).whereNotNull('agreed_at').forNoKeyUpdate().first();
  if (!contract) return {};
  if (isLookedAt(run, contract.client_id)) {
    const { through } = await readRunClient(work.tx, run, contract.client_id);
    await proposeDue(work, contract, through);
  }
  await followRun(work, [contract.client_id]);
  return {};
}

/** A client is billed on other days, or on other invoices: in the run that is open it is worked out anew. */
export async function followTerms(work: Work, id: string): Promise<Outcome<unknown>> {
  const clientId = id as Id<'client'>;
  const run = await openRun(work.tx);
  if (!run || !isLookedAt(run, clientId)) return {};
  await proposeDueOfClient(work, await readRunClient(work.tx, run, clientId));
  await followRun(work, [clientId]);
  return {};
}
