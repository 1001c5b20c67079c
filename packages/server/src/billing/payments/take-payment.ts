import { dateOf, formatMoney, type Id, type LocalDate, money, type Money, type Outcome, parseMoney, refuse } from '@core/ground';
import type { NewPaymentForm } from '@core/billing';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { readSource } from './read-source';
import { settleAsFarAsItGoes } from './settle-invoice';

export interface ReceivedMoney {
  readonly clientId: Id<'client'> | null;
  readonly amount: Money;
  readonly receivedOn: LocalDate;
  readonly source: 'ledger' | 'by hand' | 'bank';
  /** How whoever told of it calls it for ever; null by hand. */
  readonly externalId: string | null;
  readonly reference: string;
}

/**
 * Keeps money that was received, and settles an invoice with it as far as it goes. What is over is the client's credit.
 * @returns undefined where it was taken before
 */
export async function takePayment(
  work: Work,
  received: ReceivedMoney,
  invoiceId: Id<'invoice'> | null,
): Promise<{ id: Id<'payment'> } | undefined> {
  const { amount, source, reference } = received;
  const [payment] = await work
    .tx('payment')
    .insert({
      client_id: received.clientId,
      at: at(work.now),
      received_on: received.receivedOn,
      amount_minor: amount.minor,
      currency: amount.currency,
      source,
      external_id: received.externalId,
      reference,
    })
    .onConflict('external_id')
    .ignore()
    .returning('id');
  if (!payment) return undefined;
  await work.tell('payment.received', payment.id, { amount, source, reference });
  if (invoiceId) await settleAsFarAsItGoes(work, invoiceId, (await readSource(work.tx, 'payment', payment.id))!);
  return payment;
}

/** Money that came by another way than the ledger, written down by hand. */
export async function recordPayment(work: Work, form: NewPaymentForm): Promise<Outcome<{ id: Id<'payment'> }>> {
  const { currency } = work.book.house;
  const client = await work.tx('client').where({ id: form.clientId }).first('id');
  if (!client) return refuse('invalid', 'There is no such client.', { clientId: 'choose a client' });
  const amount = parseMoney(form.amount, currency);
  if (!amount) return refuse('invalid', `"${form.amount}" is no amount of ${currency}.`, { amount: 'an amount such as 120.50' });
  const today = dateOf(work.now, work.book.house.zone);
  if (form.receivedOn > today) return refuse('invalid', `${form.receivedOn} is yet to come.`, { receivedOn: 'today or a day before' });
  const invoice = form.invoiceId && (await work.tx('invoice').where({ id: form.invoiceId, kind: 'invoice' }).first('client_id'));
  if (form.invoiceId && invoice?.client_id !== form.clientId)
    return refuse('invalid', 'That is no invoice of this client.', { invoiceId: 'an invoice of this client' });
  const { clientId, receivedOn, reference, invoiceId } = form;
  const received = { clientId, amount, receivedOn: receivedOn as LocalDate, source: 'by hand' as const, externalId: null, reference };
  return (await takePayment(work, received, invoiceId))!;
}

/** Says whose a payment is that nobody knew. */
export async function setPaymentClient(
  work: Work,
  paymentId: Id<'payment'>,
  clientId: Id<'client'>,
): Promise<Outcome<{ id: Id<'payment'> }>> {
  const payment = await work.tx('payment').where({ id: paymentId }).forUpdate().first();
  if (!payment) return refuse('not-found', 'There is no such payment.');
  if (payment.client_id)
    return refuse('not-possible-now', `${formatMoney(money(payment.amount_minor, payment.currency))} has a client already.`);
  const client = await work.tx('client').where({ id: clientId }).first('name');
  if (!client) return refuse('invalid', 'There is no such client.', { clientId: 'choose a client' });
  await work.tx('payment').where({ id: paymentId }).update({ client_id: clientId });
  await work.tell('payment.client-set', paymentId, { client: client.name });
  return { id: paymentId };
}
