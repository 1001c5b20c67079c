import { type InvoicePart, partKey, type RunReason, whyDiffers } from '@core/billing';
import type { Id, LocalDate } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { lastInvoice } from './last-invoice';
import { isLookedAt, openRun } from './open-run';
import { type ChargeOfRun, chargesOfRun, runLine } from './run-charges';
import { lockRunClient, type RunClient, type RunOf } from './run-client';

/** What a run keeps of an invoice that is to be. */
interface Figures {
  readonly part: InvoicePart;
  readonly through: LocalDate;
  readonly is_once: boolean;
  readonly charges: number;
  readonly net_minor: number;
  readonly last_id: Id<'invoice'> | null;
  readonly last_minor: number;
  readonly reasons: readonly RunReason[];
}

/** Works out what one of a client's invoices comes to, and why that is not what the last of its kind came to. */
async function figuresOf(work: Work, { clientId, through, isOnce }: RunClient, all: readonly ChargeOfRun[]): Promise<Figures> {
  const { invoicePart: part } = all[0]!;
  const lines = all.filter((c) => !c.held).map(runLine);
  const recurs = lines.some((l) => l.recurs && !l.recurs.isTrueUp);
  const last = await lastInvoice(work.tx, { clientId, partKey: partKey(part), recurs });
  return {
    part,
    through,
    is_once: isOnce,
    charges: lines.length,
    net_minor: lines.reduce((sum, l) => sum + l.net.minor, 0),
    last_id: last?.id ?? null,
    last_minor: last?.netMinor ?? 0,
    reasons: whyDiffers(lines, last?.lines ?? null, work.book.house.currency),
  };
}

/** What is due of a client by the invoices that it is on. */
async function dueByPart(work: Work, of: RunClient): Promise<Map<string, ChargeOfRun[]>> {
  const parts = new Map<string, ChargeOfRun[]>();
  for (const charge of await chargesOfRun(work.tx, of)) {
    const key = partKey(charge.invoicePart);
    parts.set(key, [...(parts.get(key) ?? []), charge]);
  }
  return parts;
}

/**
 * Brings the invoices of a client in a run to what is due now; where nothing is, they go. What is issued, or about to be, is
 * left as it is.
 */
export async function fitRunInvoices(work: Work, run: RunOf, clientId: Id<'client'>): Promise<void> {
  await fitLocked(work, await lockRunClient(work, run, clientId));
}

async function fitLocked(work: Work, of: RunClient): Promise<void> {
  const parts = await dueByPart(work, of);
  const mine = { run_id: of.runId, client_id: of.clientId };
  const stand: Row<'billing_run_invoice'>[] = await work.tx('billing_run_invoice').where(mine).orderBy('id').forUpdate();
  for (const { id, part_key: key, state } of stand) {
    const charges = parts.get(key);
    parts.delete(key);
    if (state === 'issued' || state === 'asked') continue;
    if (charges) await keep(work, id, await figuresOf(work, of, charges));
    else await work.tx('billing_run_invoice').where({ id }).delete();
  }
  for (const [key, charges] of parts) {
    const figures = stored(await figuresOf(work, of, charges));
    await work.tx('billing_run_invoice').insert({ ...mine, part_key: key, currency: work.book.house.currency, ...figures });
  }
}

function stored({ part, reasons, ...figures }: Figures) {
  return { ...figures, part: JSON.stringify(part), reasons: JSON.stringify(reasons) };
}

async function keep(work: Work, id: Id<'billing_run_invoice'>, figures: Figures & { readonly state?: 'changed' }): Promise<void> {
  await work.tx('billing_run_invoice').where({ id }).update(stored(figures));
}

/** What one of a client's invoices bills, without what is held. */
export async function dueOfPart(work: Work, of: RunClient, key: string): Promise<ChargeOfRun[]> {
  return ((await dueByPart(work, of)).get(key) ?? []).filter((c) => !c.held);
}

/**
 * What is due of an invoice that is to be issued now, if it is not what was seen: that is kept, and has to be seen.
 * @param of the client's row, locked
 */
export async function keepChange(work: Work, of: RunClient, seen: Row<'billing_run_invoice'>): Promise<boolean> {
  const charges = (await dueByPart(work, of)).get(seen.part_key);
  if (!charges) {
    await work.tx('billing_run_invoice').where({ id: seen.id }).delete();
    await fitLocked(work, of);
    return true;
  }
  const figures = await figuresOf(work, of, charges);
  if (figures.net_minor === seen.net_minor && figures.charges === seen.charges) return false;
  await keep(work, seen.id, { ...figures, state: 'changed' });
  return true;
}

/** Clients of whom something changed: their invoices in the run that is open follow. */
export async function followRun(work: Work, clientIds: readonly Id<'client'>[]): Promise<void> {
  if (!clientIds.length) return;
  const run = await openRun(work.tx);
  if (!run) return;
  const mine = [...new Set(clientIds)].filter((id) => isLookedAt(run, id)).sort();
  for (const clientId of mine) await fitRunInvoices(work, run, clientId);
  await work.emit('run', run.id);
}
