import type { Id } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import { bySystem } from '../../app/actor';
import { makeWork } from '../../app/work';

/** Job: books an issued document in the ledger. Its id is the key, so booking twice is booking once. */
export async function pushInvoice(app: App, { invoiceId }: { invoiceId: Id<'invoice'> }): Promise<void> {
  const i = await app
    .knex('invoice as i')
    .join('client as c', 'c.id', 'i.client_id')
    .join('invoice_standing as s', 's.invoice_id', 'i.id')
    .where('i.id', invoiceId)
    .leftJoin('invoice as o', 'o.id', 'i.corrects_id')
    .first('i.*', 'o.number as corrects', 'c.number as client_number', 'c.name as client', 's.ledger_at');
  if (!i) throw new Error(`there is no invoice ${invoiceId}`);
  if (i.ledger_at !== null) return;
  const ledgerId = await app.ledger.bookSale(
    {
      kind: i.kind,
      reference: i.number,
      corrects: i.corrects,
      customer: `${i.client_number} ${i.client}`,
      date: i.issued_on,
      dueDate: i.due_on,
      currency: i.currency,
      netMinor: i.net_minor,
      taxMinor: i.tax_minor,
      grossMinor: i.gross_minor,
    },
    invoiceId,
  );
  await app.knex.transaction(async (tx) => {
    const now = app.clock.now();
    const [first] = await tx('invoice_standing')
      .where({ invoice_id: invoiceId })
      .whereNull('ledger_at')
      .update({ ledger_at: at(now), ledger_id: ledgerId })
      .returning('invoice_id');
    if (!first) return;
    await makeWork({ tx, now, actor: bySystem('ledger'), book: app.house }).tell('invoice.booked-in-ledger', invoiceId, { ledgerId });
  });
}
