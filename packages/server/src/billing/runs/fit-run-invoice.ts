import { type RunReason, whyDiffers } from '@core/billing';
import type { Id } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { lastInvoice } from './last-invoice';
import { isLookedAt, openRun } from './open-run';
import { chargesOfRun, runLine, type RunOf } from './run-charges';

/** What a run keeps of an invoice that is to be. */
interface Figures {
  readonly charges: number;
  readonly net_minor: number;
  readonly last_id: Id<'invoice'> | null;
  readonly last_minor: number;
  readonly reasons: readonly RunReason[];
}

/** Works out what a client's invoice in a run comes to, and why that is not what the last came to. */
async function figuresOf(work: Work, run: RunOf, clientId: Id<'client'>): Promise<Figures | undefined> {
  const all = await chargesOfRun(work.tx, run, clientId);
  if (!all.length) return undefined;
  const lines = all.filter((c) => !c.held).map(runLine);
  const last = await lastInvoice(work.tx, { clientId, recurs: lines.some((l) => l.recurs && !l.recurs.isTrueUp) });
  return {
    charges: lines.length,
    net_minor: lines.reduce((sum, l) => sum + l.net.minor, 0),
    last_id: last?.id ?? null,
    last_minor: last?.netMinor ?? 0,
    reasons: whyDiffers(lines, last?.lines ?? null, work.book.house.currency),
  };
}

/**
 * Brings the invoice of a client in a run to what is due now; where nothing is, it goes. What is issued, or about to be, is
 * left as it is.
 */
export async function fitRunInvoice(work: Work, run: RunOf, clientId: Id<'client'>): Promise<void> {
  const mine = { run_id: run.id, client_id: clientId };
  // It is there before it is worked out: who brings the same client to the facts at the same time waits, and sees them all.
  await work
    .tx('billing_run_invoice')
    .insert({ ...mine, currency: work.book.house.currency, charges: 0, net_minor: 0, reasons: '[]' })
    .onConflict(['run_id', 'client_id'])
    .ignore();
  const stands = (await work.tx('billing_run_invoice').where(mine).forUpdate().first())!;
  if (stands.state === 'issued' || stands.state === 'asked') return;
  await keep(work, stands.id, await figuresOf(work, run, clientId));
}

/** Keeps what was worked out; an invoice of nothing goes. */
async function keep(
  work: Work,
  id: Id<'billing_run_invoice'>,
  figures: (Figures & { readonly state?: 'changed' }) | undefined,
): Promise<void> {
  const invoice = work.tx('billing_run_invoice').where({ id });
  if (!figures) await invoice.delete();
  else await invoice.update({ ...figures, reasons: JSON.stringify(figures.reasons) });
}

/** What is due of an invoice that is to be issued now, if it is not what was seen: that is kept, and has to be seen. */
export async function keepChange(work: Work, run: RunOf, seen: Row<'billing_run_invoice'>): Promise<boolean> {
  const figures = await figuresOf(work, run, seen.client_id);
  if (figures && figures.net_minor === seen.net_minor && figures.charges === seen.charges) return false;
  await keep(work, seen.id, figures && { ...figures, state: 'changed' });
  return true;
}

/** Clients of whom something changed: their invoices in the run that is open follow. */
export async function followRun(work: Work, clientIds: readonly Id<'client'>[]): Promise<void> {
  if (!clientIds.length) return;
  const run = await openRun(work.tx);
  if (!run) return;
  const mine = [...new Set(clientIds)].filter((id) => isLookedAt(run, id)).sort();
  for (const clientId of mine) await fitRunInvoice(work, run, clientId);
  await work.emit('run', run.id);
}
