import { formatMoney, type Currency } from '@core/ground';
import type { Knex } from 'knex';
import type { Receipt } from '../../adapters/ledger/ledger-client';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import { bySystem } from '../../app/actor';
import { makeWork } from '../../app/work';

/** Job: brings what the ledger received since the last time. A receipt counts once, however often it comes. */
export async function pullPayments(app: App): Promise<void> {
  const { after } = await app.knex('ledger_cursor').first('after');
  const receipts = await app.ledger.receiptsAfter(after);
  for (const receipt of receipts) await app.knex.transaction((tx) => take(app, tx, receipt));
}

async function take(app: App, tx: Knex.Transaction, receipt: Receipt): Promise<void> {
  const cursor = await tx('ledger_cursor').forUpdate().first('after');
  if (receipt.seq <= cursor.after) return;
  await tx('ledger_cursor').update({ after: receipt.seq });
  const invoice = await tx('invoice').where({ number: receipt.reference, currency: receipt.currency }).first('id', 'currency');
  if (!invoice) return void app.log.warn({ receipt }, 'a receipt for an invoice that is not ours');
  const now = app.clock.now();
  const [payment] = await tx('payment')
    .insert({
      invoice_id: invoice.id,
      at: at(now),
      amount_minor: receipt.amountMinor,
      currency: receipt.currency,
      source: 'ledger',
      external_id: `ledger:${receipt.seq}`,
    })
    .onConflict('external_id')
    .ignore()
    .returning('id');
  if (!payment) return;
  const amount = { minor: receipt.amountMinor, currency: invoice.currency as Currency };
  await tx('invoice_standing').where({ invoice_id: invoice.id }).increment('paid_minor', receipt.amountMinor);
  await tx('invoice_event').insert({
    invoice_id: invoice.id,
    at: at(now),
    event: 'payment',
    detail: `${formatMoney(amount)}, ledger receipt ${receipt.seq}`,
  });
  await makeWork({ tx, now, actor: bySystem('ledger'), book: app.house }).tell('invoice.paid', invoice.id, {
    amount,
    receipt: receipt.seq,
  });
}
