import { invoiceRoutes, type DraftWire } from '@core/billing';
import { refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { InvoiceFormat } from '../../app/documents/document-worker';
import { invoiceDocument } from './invoice-documents';
import { listInvoices, readInvoice } from './invoice-read-model';
import { clearedCharges, compose, issueInvoice } from './issue-invoice';

export function bindInvoices(app: App) {
  const document = async (invoiceId: string, format: InvoiceFormat, mediaType: string, ending: string) => {
    const row = await app.knex('invoice').where({ id: invoiceId }).first('number');
    const bytes = row && (await invoiceDocument(app, invoiceId, format));
    return bytes ? { bytes, name: `${row.number}.${ending}`, mediaType } : refuse('not-found', 'There is no such invoice.');
  };
  return bindRoutes(app, invoiceRoutes, {
    listInvoices: ({ db, query, now }) => listInvoices(db, app.house, query, now),
    listDrafts: async ({ db }) => {
      const clients = await db('charge as ch')
        .join('client as c', 'c.id', 'ch.client_id')
        .where('ch.state', 'approved')
        .distinct('c.id', 'c.name')
        .orderBy('c.name');
      const drafts: DraftWire[] = [];
      for (const { id, name } of clients) {
        const { lines, totals } = compose(await clearedCharges(db, id), app.house);
        drafts.push({
          clientId: id,
          client: name,
          lines: lines.map((l) => ({
            position: l.position,
            description: l.description,
            quantity: l.quantity,
            unit: l.unit,
            unitPrice: l.unitPrice,
            net: l.net,
            taxCategory: l.tax.category,
            taxPercent: l.tax.percent,
            chargeId: l.chargeIds[0]!,
          })),
          groups: totals.groups.map((g) => ({ category: g.tax.category, percent: g.tax.percent, base: g.base, tax: g.amount })),
          net: totals.net,
          tax: totals.tax,
          gross: totals.gross,
        });
      }
      return { drafts };
    },
    getInvoice: ({ db, params, now }) => readInvoice(db, app.house, params.invoiceId, now),
    issueInvoice: ({ work, body }) => issueInvoice(work, app.house, body.clientId, body.chargeIds),
    getInvoicePdf: ({ params }) => document(params.invoiceId, 'pdf', 'application/pdf', 'pdf'),
    getInvoiceUbl: ({ params }) => document(params.invoiceId, 'ubl', 'application/xml', 'xml'),
  });
}
