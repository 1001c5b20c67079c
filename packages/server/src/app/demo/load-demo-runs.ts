import { type Id, isRefusal, type LocalDate } from '@core/ground';
import { fitRunInvoices } from '../../billing/runs/fit-run-invoices';
import { prepareRun } from '../../billing/runs/prepare-run';
import type { Row } from '../rows';
import type { Work } from '../work';

/** A run in which all clients were looked at. What recurs is proposed before. */
export async function prepareDemoRun(work: Work, on: LocalDate): Promise<Row<'billing_run'>> {
  const prepared = await prepareRun(work, on);
  if (isRefusal(prepared)) throw new Error(prepared.detail);
  const run = (await work.tx('billing_run').where({ id: prepared.id }).first())!;
  const clients: Id<'client'>[] = await work.tx('client').orderBy('id').pluck('id');
  for (const clientId of clients) await fitRunInvoices(work, run, clientId);
  await work
    .tx('billing_run')
    .where({ id: run.id })
    .update({ state: 'ready', clients: clients.length, looked_at: clients.length, after_client: clients.at(-1) ?? null });
  return run;
}

/** Issues a client's invoice in a run, as the run itself would. */
export async function issueOfDemoRun(
  work: Work,
  { run, clientId }: { readonly run: Row<'billing_run'>; readonly clientId: Id<'client'> },
  issue: () => Promise<Id<'invoice'> | undefined>,
): Promise<void> {
  const invoice = work.tx('billing_run_invoice').where({ run_id: run.id, client_id: clientId });
  await invoice.clone().update({ state: 'asked' });
  const id = await issue();
  if (id) await invoice.clone().update({ state: 'issued', invoice_id: id });
}
