import { invoiceRoutes } from '@core/billing';
import { type Id, refuse } from '@core/ground';
import { readStory } from '../../app/read-story';
import type { App } from '../../app/app';
import type { Db } from '../../app/database';
import { bindRoutes } from '../../app/bind-routes';
import type { InvoiceFormat } from '../../app/documents/document-worker';
import { creditInvoice } from './credit-invoice';
import { listDraftLines, listDrafts } from './drafts-read-model';
import { invoiceDocument } from './invoice-documents';
import { listInvoices, readInvoice } from './invoice-read-model';
import { issueInvoice } from './issue-invoice';

export function bindInvoices(app: App) {
  const document = async (
    db: Db,
    {
      invoiceId,
      format,
      mediaType,
      ending,
    }: { readonly invoiceId: Id<'invoice'>; readonly format: InvoiceFormat; readonly mediaType: string; readonly ending: string },
  ) => {
    const row = await db('invoice').where({ id: invoiceId }).first('number');
    const bytes = row && (await invoiceDocument(app, { invoiceId, format, db }));
    return bytes ? { bytes, name: `${row.number}.${ending}`, mediaType } : refuse('not-found', 'There is no such invoice.');
  };
  return bindRoutes(app, invoiceRoutes, {
    listInvoices: ({ db, query, now }) => listInvoices(db, app.house, { filter: query, now }),
    listDrafts: ({ db, query }) => listDrafts(db, app.house, query),
    listDraftLines: ({ db, params, query }) => listDraftLines(db, params.clientId, query),
    getInvoiceStory: async ({ db, params, query }) => ({
      story: await readStory(db, { subject: 'invoice', id: params.invoiceId, before: query.before }),
    }),
    getInvoice: ({ db, params, now }) => readInvoice(db, app.house, { invoiceId: params.invoiceId, now }),
    issueInvoice: ({ work, body }) => issueInvoice(work, body),
    creditInvoice: ({ work, params, body }) => creditInvoice(work, params.invoiceId, body),
    getInvoicePdf: ({ db, params }) =>
      document(db, { invoiceId: params.invoiceId, format: 'pdf', mediaType: 'application/pdf', ending: 'pdf' }),
    getInvoiceUbl: ({ db, params }) =>
      document(db, { invoiceId: params.invoiceId, format: 'ubl', mediaType: 'application/xml', ending: 'xml' }),
  });
}
