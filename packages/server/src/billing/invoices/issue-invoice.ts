import { documentKindOf, invoiceLines, type InvoicePart, invoiceTotals, type IssueForm } from '@core/billing';
import { formatMoney, type Id, type Outcome, refuse } from '@core/ground';
import type { Work } from '../../app/work';
import { TO_BILL } from '../charges/charges-read-model';
import { chargesToBill } from './charges-to-bill';
import { issueDocument } from './issue-document';

const WHOLE: InvoicePart = { per: 'client', of: null, name: null };

/**
 * Issues an invoice of charges that wait for one, or a credit note where they come to less than nothing.
 * @param chargeIds null for all that wait, if they still come to the gross amount that was seen
 * @param part what it is for, where the client gets several
 */
export async function issueInvoice(
  work: Work,
  { clientId, chargeIds, grossMinor }: IssueForm,
  part: InvoicePart = WHOLE,
): Promise<Outcome<{ id: Id<'invoice'>; number: string }>> {
  const { tx, book } = work;
  const client = await tx('client').where({ id: clientId }).first();
  if (!client) return refuse('not-found', 'There is no such client.');
  const asked = chargeIds && new Set(chargeIds);
  const locked = await tx('charge as ch')
    .whereRaw(TO_BILL)
    .where({ client_id: clientId })
    .modify((q) => asked && void q.whereIn('id', [...asked]))
    .orderBy('id')
    .forUpdate()
    .pluck('id');
  if (asked && locked.length !== asked.size)
    return refuse(
      'changed-meanwhile',
      'Some of these charges are not cleared any more, or are on an invoice already. Look at the preview again.',
    );
  if (!locked.length) return refuse('not-possible-now', 'No charge of this client waits for an invoice.');
  const charges = await chargesToBill(tx, clientId, asked && [...asked]);
  const kind = documentKindOf(charges);
  const lines = invoiceLines(charges, kind);
  const totals = invoiceTotals(lines, book.house.currency);
  const gross = kind === 'credit note' ? -totals.gross.minor : totals.gross.minor;
  if (grossMinor !== null && gross !== grossMinor)
    return refuse(
      'changed-meanwhile',
      `What waits for an invoice is not what you saw: it comes to ${formatMoney({ ...totals.gross, minor: gross })} now. Look at the preview again.`,
    );
  const purchaseOrder = await orderOf(
    work,
    charges.map((c) => c.id),
  );
  return issueDocument(work, { kind, client, lines, totals, part, purchaseOrder });
}

/** The client's order that all of it is on; null where it is on several or on none. */
async function orderOf(work: Work, chargeIds: readonly string[]): Promise<string | null> {
  const orders: (string | null)[] = await work
    .tx('charge as ch')
    .leftJoin('contract as k', 'k.id', 'ch.contract_id')
    .whereRaw('ch.id = any(?)', [[...chargeIds]])
    .distinct()
    .pluck('k.purchase_order');
  return orders.length === 1 ? orders[0]! : null;
}
