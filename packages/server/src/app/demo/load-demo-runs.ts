import type { InvoicePart } from '@core/billing';
import { type Id, isRefusal, type LocalDate } from '@core/ground';
import { dueOfPart, fitRunInvoices } from '../../billing/runs/fit-run-invoices';
import { prepareRun } from '../../billing/runs/prepare-run';
import { readRunClient } from '../../billing/runs/run-client';
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

/** What an invoice of a run bills, and what it is for. */
export interface DueInRun {
  readonly part: InvoicePart;
  readonly chargeIds: readonly string[];
}

/** Issues a client's invoices in a run, as the run itself would. */
export async function issueOfDemoRun(
  work: Work,
  { run, clientId }: { readonly run: Row<'billing_run'>; readonly clientId: Id<'client'> },
  issue: (due: DueInRun) => Promise<Id<'invoice'> | undefined>,
): Promise<void> {
  const of = await readRunClient(work.tx, run, clientId);
  const rows: Row<'billing_run_invoice'>[] = await work
    .tx('billing_run_invoice')
    .where({ run_id: run.id, client_id: clientId })
    .orderBy('part_key');
  for (const { id: rowId, part, part_key: key } of rows) {
    const row = work.tx('billing_run_invoice').where({ id: rowId });
    const cleared = (await dueOfPart(work, of, key)).filter((c) => c.state === 'approved');
    await row.clone().update({ state: 'asked' });
    const id = await issue({ part, chargeIds: cleared.map((c) => c.id) });
    if (id) await row.clone().update({ state: 'issued', invoice_id: id });
  }
}
