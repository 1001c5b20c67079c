import { DOCUMENT_NAMES, type IssuedInvoice, shownName } from '@core/billing';
import { formatMoney, type Id } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import { byJob } from '../../app/actor';
import { makeWork } from '../../app/work';
import { invoiceDocument } from './invoice-documents';
import { invoiceMailId } from './take-invoice-report';
import { readDocuments } from './read-documents';

/**
 * Job: makes the documents and mails them to the client, holding no row meanwhile. Run again, it does nothing more; its
 * Message-ID is fixed, so that a mail sent twice by a crash after sending is one mail to every reader.
 */
export async function deliverInvoice(app: App, { invoiceId }: { invoiceId: Id<'invoice'> }): Promise<void> {
  const [pdf, ubl, invoice] = [
    await invoiceDocument(app, { invoiceId, format: 'pdf' }),
    await invoiceDocument(app, { invoiceId, format: 'ubl' }),
    (await readDocuments(app.knex, [invoiceId]))[0],
  ];
  if (!pdf || !ubl || !invoice) throw new Error(`there is no invoice ${invoiceId}`);
  const { mailed_at } = (await app.knex('invoice_standing').where({ invoice_id: invoiceId }).first('mailed_at'))!;
  if (mailed_at !== null) return;
  const { division_id: divisionId } = (await app.knex('invoice').where({ id: invoiceId }).first('division_id'))!;
  await app.mail.send({
    from: { name: shownName(invoice.seller), address: app.house.division(divisionId).mailFrom },
    to: [invoice.buyer.email],
    cc: [],
    subject: `${DOCUMENT_NAMES[invoice.kind]} ${invoice.number}`,
    text: `Hello,\n\n${attached(invoice)} as PDF and as EN 16931 UBL.\n\n${shownName(invoice.seller)}\n`,
    messageId: invoiceMailId(invoiceId, app.house.house.mailFrom),
    references: [],
    headers: { 'auto-submitted': 'auto-generated' },
    attachments: [
      { filename: `${invoice.number}.pdf`, content: pdf, contentType: 'application/pdf' },
      { filename: `${invoice.number}.xml`, content: ubl, contentType: 'application/xml' },
    ],
  });
  await app.knex.transaction(async (tx) => {
    const now = app.clock.now();
    const standing = tx('invoice_standing').where({ invoice_id: invoiceId }).whereNull('mailed_at');
    const [first] = await standing.update({ mailed_at: at(now) }).returning('invoice_id');
    const work = makeWork({ tx, now, actor: byJob('delivery'), book: app.house });
    if (first) await work.tell('invoice.mailed', invoiceId, { to: invoice.buyer.email });
  });
}

function attached({ kind, number, totals, dueOn, corrects }: IssuedInvoice): string {
  const over = `over ${formatMoney(totals.gross)}`;
  if (kind === 'invoice') return `attached is invoice ${number} ${over}, due ${dueOn},`;
  return `attached is credit note ${number} ${over}${corrects ? `, which corrects invoice ${corrects.number} of ${corrects.issuedOn} (${corrects.reason})` : ''},`;
}
