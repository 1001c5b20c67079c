import type { Delivery } from '@core/desk';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { tellPerson } from '../../house/notices/tell-person';

/** The id of an invoice's mail, from which a report about it finds back. */
export function invoiceMailId(invoiceId: string, mailFrom: string): string {
  return `<invoice-${invoiceId}@${mailFrom.split('@')[1]}>`;
}

/**
 * Takes a delivery report to the invoice whose mail it is about: what became of it stands there, and who issued it is
 * told where it did not arrive.
 * @param ids what the report calls the mail
 * @returns the invoice's id, or undefined where the report is about none
 */
export async function takeInvoiceReport(
  work: Work,
  mailFrom: string,
  ids: readonly string[],
  deliveries: readonly Delivery[],
): Promise<string | undefined> {
  const named = ids.flatMap((id) => [...(/^<invoice-([0-9a-f-]{36})@/.exec(id)?.slice(1) ?? [])].map((invoiceId) => ({ id, invoiceId })));
  const found = named.find((each) => each.id === invoiceMailId(each.invoiceId, mailFrom));
  const invoice = found && (await work.tx('invoice').where({ id: found.invoiceId }).forUpdate().first('id', 'number', 'issued_by'));
  if (!invoice) return undefined;
  for (const { became, address, why } of deliveries) {
    const event = became === 'failed' ? 'not delivered' : became;
    const detail = became === 'delivered' ? address : `${address}: ${why}`;
    await work
      .tx('invoice_event')
      .insert({ invoice_id: invoice.id, at: at(work.now), event, detail })
      .onConflict()
      .ignore();
    await work.tell({ subject: 'invoice', id: invoice.id, what: `${event}: ${detail}` });
  }
  const failed = deliveries.filter((d) => d.became === 'failed');
  if (failed.length) {
    await work
      .tx('invoice_standing')
      .where({ invoice_id: invoice.id })
      .update({ undelivered_at: at(work.now) });
    const words = `Invoice ${invoice.number} was not delivered to ${failed.map((d) => `${d.address}: ${d.why}`).join('; ')}`;
    for (const person of invoice.issued_by ? [invoice.issued_by] : []) await tellPerson(work, person, words, null);
  }
  return invoice.id;
}
