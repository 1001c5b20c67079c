import { DOCUMENT_NAMES, type DocumentKind } from '@core/billing';
import { type Id, isId } from '@core/ground';
import { at } from '../../app/database';
import type { MailReport } from '../../app/handled-reports';
import type { Work } from '../../app/work';
import { tellPerson } from '../../house';

/** The id of an invoice's mail, from which a report about it finds back. */
export function invoiceMailId(invoiceId: Id<'invoice'>, mailFrom: string): string {
  return `<invoice-${invoiceId}@${mailFrom.split('@')[1]}>`;
}

/**
 * Takes a delivery report to the invoice whose mail it is about: what became of it stands there, and who issued it is
 * told where it did not arrive.
 * @returns the address that the invoice was mailed to, or undefined where the report is about none
 */
export async function takeInvoiceReport(
  work: Work,
  { mailFrom, ids, deliveries }: MailReport,
): Promise<{ readonly sentTo: string } | undefined> {
  const named = ids.map((id) => /^<invoice-([^@]+)@/.exec(id)?.[1] ?? '').filter(isId);
  const invoiceId = named.find((each) => ids.includes(invoiceMailId(each, mailFrom)));
  const invoice =
    invoiceId && (await work.tx('invoice').where({ id: invoiceId }).forUpdate().first('id', 'kind', 'number', 'issued_by', 'buyer'));
  if (!invoice) return undefined;
  for (const { became, address, why } of deliveries) {
    if (became === 'delivered') await work.tell('invoice.delivered', invoice.id, { address });
    else await work.tell(became === 'failed' ? 'invoice.not-delivered' : 'invoice.delayed', invoice.id, { address, why });
  }
  const failed = deliveries.filter((d) => d.became === 'failed');
  if (failed.length) {
    await work
      .tx('invoice_standing')
      .where({ invoice_id: invoice.id })
      .update({ undelivered_at: at(work.now) });
    const words = `${DOCUMENT_NAMES[invoice.kind as DocumentKind]} ${invoice.number} was not delivered to ${failed.map((d) => `${d.address}: ${d.why}`).join('; ')}`;
    if (invoice.issued_by) await tellPerson(work, { personId: invoice.issued_by, text: words, ticketId: null });
  }
  return { sentTo: invoice.buyer.email };
}
