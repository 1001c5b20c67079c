import { type IssueRunForm, LEFT_TO_ISSUE } from '@core/billing';
import { formatMoney, type Id, money, type Outcome, plural, refuse } from '@core/ground';
import { countOf } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';

/** Why nothing can be issued where a run stands. */
const NOT_NOW = {
  preparing: 'It is still being prepared.',
  issuing: 'Invoices of it are being issued already: wait until that is over.',
  done: 'This run is done.',
} as const;

/** Asks for invoices of a run to be issued: those named, or all that can be; none where they are not what was seen. */
export async function askToIssue(
  work: Work,
  { runId, form }: { readonly runId: Id<'billing_run'>; readonly form: IssueRunForm },
): Promise<Outcome<{ invoices: number }>> {
  const run: Row<'billing_run'> | undefined = await work.tx('billing_run').where({ id: runId }).forUpdate().first();
  if (!run) return refuse('not-found', 'There is no such run.');
  if (run.state !== 'ready') return refuse('not-possible-now', NOT_NOW[run.state]);
  const rows: Row<'billing_run_invoice'>[] = await work
    .tx('billing_run_invoice')
    .where({ run_id: runId })
    .where('charges', '>', 0)
    .whereIn('state', [...LEFT_TO_ISSUE])
    .modify((q) => form.ids && void q.whereIn('id', [...form.ids]))
    .orderBy('id')
    .forUpdate();
  const net = rows.reduce((sum, r) => sum + r.net_minor, 0);
  if (rows.length !== form.invoices || net !== form.netMinor)
    return refuse(
      'changed-meanwhile',
      `These are not what you saw: now ${plural(rows.length, 'invoice')} over ${formatMoney(money(net, work.book.house.currency))} before tax. Look again.`,
    );
  if (!rows.length) return refuse('not-possible-now', 'Nothing of it is left to issue.');
  await work
    .tx('billing_run_invoice')
    .whereRaw('id = any(?)', [rows.map((r) => r.id)])
    .update({ state: 'asked', trouble: null });
  await work.tx('billing_run').where({ id: runId }).update({ state: 'issuing', asked_by: work.actor.personId });
  await work.enqueue('issue-run', { runId }, { key: `issue-run:${runId}` });
  await work.tell('run.issue-asked', runId, { invoices: rows.length, net: money(net, work.book.house.currency) });
  return { invoices: rows.length };
}

/** Ends a run; what was not issued waits for the next. */
export async function putRunAway(work: Work, runId: Id<'billing_run'>): Promise<Outcome<Record<never, never>>> {
  const run = await work.tx('billing_run').where({ id: runId }).forUpdate().first();
  if (!run) return refuse('not-found', 'There is no such run.');
  if (run.state === 'done') return {};
  if (run.state === 'issuing') return refuse('not-possible-now', 'It is being issued: wait until that is over.');
  await work.tx('billing_run').where({ id: runId }).update({ state: 'done' });
  const left = await countOf(
    work
      .tx('billing_run_invoice')
      .where({ run_id: runId })
      .whereIn('state', ['held', ...LEFT_TO_ISSUE]),
  );
  await work.tell('run.put-away', runId, { left });
  return {};
}
