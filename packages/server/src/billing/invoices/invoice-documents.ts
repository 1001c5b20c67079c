import type { Id } from '@core/ground';
import type { App } from '../../app/app';
import { at, type Db } from '../../app/database';
import type { InvoiceFormat } from '../../app/documents/document-worker';
import { readDocuments } from './read-documents';

/**
 * The document of an issued invoice; made once and kept, so that it is the same bytes for ever.
 * @returns undefined where there is no such invoice
 */
export async function invoiceDocument(
  app: App,
  { invoiceId, format, db = app.knex }: { readonly invoiceId: Id<'invoice'>; readonly format: InvoiceFormat; readonly db?: Db },
): Promise<Buffer | undefined> {
  const kept = await db('invoice_document').where({ invoice_id: invoiceId, format }).first('bytes');
  if (kept) return kept.bytes;
  const [invoice] = await readDocuments(db, [invoiceId]);
  if (!invoice) return undefined;
  const bytes = await app.documents.make(format, invoice);
  await db('invoice_document')
    .insert({ invoice_id: invoiceId, format, bytes, made_at: at(app.clock.now()) })
    .onConflict(['invoice_id', 'format'])
    .ignore();
  return (await db('invoice_document').where({ invoice_id: invoiceId, format }).first('bytes'))!.bytes;
}
