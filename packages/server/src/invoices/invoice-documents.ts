import { InvoiceService, type Invoice } from '@e-invoice-eu/core';
import { invoiceUbl } from '@core/invoices';
import type { App } from '../app/app';
import { at } from '../app/database';
import { invoicePdf } from './invoice-pdf';
import { issuedInvoice } from './invoice-read-model';

export type DocumentFormat = 'pdf' | 'ubl';

const quiet = { log: () => undefined, warn: () => undefined, error: () => undefined };

/**
 * The document of an issued invoice; made once and kept, so that it is the same bytes for ever.
 * @returns undefined where there is no such invoice
 */
export async function invoiceDocument(app: App, invoiceId: string, format: DocumentFormat): Promise<Buffer | undefined> {
  const kept = await app.knex('invoice_document').where({ invoice_id: invoiceId, format }).first('bytes');
  if (kept) return kept.bytes;
  const invoice = await issuedInvoice(app.knex, invoiceId);
  if (!invoice) return undefined;
  const bytes =
    format === 'pdf'
      ? await invoicePdf(invoice)
      : Buffer.from(
          String(
            await new InvoiceService(quiet as never).generate(invoiceUbl(invoice) as unknown as Invoice, { format: 'UBL', lang: 'en' }),
          ),
        );
  await app
    .knex('invoice_document')
    .insert({ invoice_id: invoiceId, format, bytes, made_at: at(app.clock.now()) })
    .onConflict(['invoice_id', 'format'])
    .ignore();
  return (await app.knex('invoice_document').where({ invoice_id: invoiceId, format }).first('bytes')).bytes;
}
