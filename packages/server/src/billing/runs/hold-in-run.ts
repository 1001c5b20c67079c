import { formatMoney, type Id, isRefusal, money, type Outcome, refuse } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { fitRunInvoices } from './fit-run-invoices';
import { lockRunClient } from './run-client';

interface OfRun {
  readonly runId: Id<'billing_run'>;
  readonly runInvoiceId: Id<'billing_run_invoice'>;
}

/** The run, if something of it can still be held or put back. */
async function runToChange(work: Work, runId: Id<'billing_run'>): Promise<Outcome<Row<'billing_run'>>> {
  const run = await work.tx('billing_run').where({ id: runId }).forShare().first();
  if (!run) return refuse('not-found', 'There is no such run.');
  return run.state === 'done' ? refuse('not-possible-now', 'This run is done: what was held comes up in the next.') : run;
}

/** Locks an invoice of a run on which something can still change. */
async function lockInvoice(
  work: Work,
  run: Row<'billing_run'>,
  { runId, runInvoiceId }: OfRun,
): Promise<Outcome<Row<'billing_run_invoice'>>> {
  const named = work.tx('billing_run_invoice').where({ id: runInvoiceId, run_id: runId });
  const seen = await named.clone().first('client_id');
  // Who brings a client to the facts locks it before its invoices.
  if (seen) await lockRunClient(work, run, seen.client_id);
  const found = await named.forUpdate().first();
  if (!found) return refuse('not-found', 'There is no such invoice in this run.');
  if (found.state === 'asked' || found.state === 'issued')
    return refuse('not-possible-now', found.state === 'asked' ? 'It is being issued.' : 'It is issued: a credit note corrects it.');
  return found;
}

/** Leaves a line for the next run, or puts it back. */
export async function holdLine(
  work: Work,
  of: OfRun & { readonly chargeId: Id<'charge'> },
  held: boolean,
): Promise<Outcome<Record<never, never>>> {
  const run = await runToChange(work, of.runId);
  if (isRefusal(run)) return run;
  const invoice = await lockInvoice(work, run, of);
  if (isRefusal(invoice)) return invoice;
  const charge = await work
    .tx('charge')
    .where({ id: of.chargeId, client_id: invoice.client_id })
    .first('description', 'net_minor', 'currency');
  if (!charge) return refuse('not-found', 'There is no such line on this invoice.');
  const key = { run_id: of.runId, charge_id: of.chargeId };
  const changed = held
    ? (await work.tx('billing_run_held').insert(key).onConflict().ignore().returning('charge_id')).length
    : await work.tx('billing_run_held').where(key).delete();
  if (!changed) return {};
  await fitRunInvoices(work, run, invoice.client_id);
  const client = (await work.tx('client').where({ id: invoice.client_id }).first('name'))!;
  const line = `${charge.description}, ${formatMoney(money(charge.net_minor, charge.currency))}`;
  await work.tell(held ? 'run.line-held' : 'run.line-released', of.runId, { line, client: client.name });
  return {};
}

/** Leaves whole invoices for the next run, or puts them back. */
export async function holdInvoices(
  work: Work,
  { runId, ids }: { readonly runId: Id<'billing_run'>; readonly ids: readonly Id<'billing_run_invoice'>[] },
  held: boolean,
): Promise<Outcome<{ changed: number }>> {
  const run = await runToChange(work, runId);
  if (isRefusal(run)) return run;
  const from = held ? ['proposed', 'changed', 'failed'] : ['held'];
  const changed = await work
    .tx('billing_run_invoice')
    .where({ run_id: runId })
    .whereIn('id', [...ids])
    .whereIn('state', from)
    .update({ state: held ? 'held' : 'proposed', trouble: null })
    .returning('client_id');
  if (!changed.length) return { changed: 0 };
  const names = await work
    .tx('client')
    .whereIn(
      'id',
      changed.map((c) => c.client_id),
    )
    .orderBy('name')
    .pluck('name');
  await work.tell(held ? 'run.held' : 'run.released', runId, { clients: names });
  return { changed: changed.length };
}
