import { type Currency, CURRENCY_DECIMALS, dateOf, type Instant, type LocalDate } from '@core/ground';
import type { Knex } from 'knex';
import type { Receipt } from '../../adapters/ledger/ledger-client';
import type { App } from '../../app/app';
import { bySystem } from '../../app/actor';
import { makeWork } from '../../app/work';
import { takePayment } from './take-payment';

/** Job: brings what the ledger received since the last time. A receipt counts once, however often it comes. */
export async function pullPayments(app: App): Promise<void> {
  const { after } = (await app.knex('ledger_cursor').first('after'))!;
  const receipts = await app.ledger.receiptsAfter(after);
  for (const receipt of receipts) await app.knex.transaction((tx) => take(app, tx, receipt));
}

/** Money for an invoice that is not ours, or is not known, is kept all the same: somebody says whose it is. */
async function take(app: App, tx: Knex.Transaction, receipt: Receipt): Promise<void> {
  const cursor = (await tx('ledger_cursor').forUpdate().first('after'))!;
  if (receipt.seq <= cursor.after) return;
  await tx('ledger_cursor').update({ after: receipt.seq });
  if (!isCurrency(receipt.currency) || receipt.amountMinor <= 0)
    return void app.log.warn({ receipt }, 'a receipt of the ledger that is no money of ours');
  const invoice = await tx('invoice')
    .where({ number: receipt.reference, currency: receipt.currency, kind: 'invoice' })
    .first('id', 'client_id');
  const now = app.clock.now();
  const work = makeWork({ tx, now, actor: bySystem('ledger'), book: app.house });
  const received = {
    clientId: (invoice?.client_id as string | undefined) ?? null,
    amount: { minor: receipt.amountMinor, currency: receipt.currency },
    receivedOn: dayOf(app, receipt, now),
    source: 'ledger' as const,
    externalId: `ledger:${receipt.seq}`,
    reference: `ledger receipt ${receipt.seq} for ${receipt.reference}`.slice(0, 200),
  };
  await takePayment(work, received, invoice?.id ?? null);
}

function isCurrency(text: string): text is Currency {
  return text in CURRENCY_DECIMALS;
}

/** The provider's day of it; today where the ledger says none that is one. */
function dayOf(app: App, { receivedAt }: Receipt, now: Instant): LocalDate {
  const ms = Date.parse(receivedAt);
  return dateOf(Number.isNaN(ms) ? now : (Math.floor(ms / 1000) as Instant), app.house.house.zone);
}
