import { allocateMoney, type SettleForm } from '@core/billing';
import { formatMoney, type Id, money, type Money, type Outcome, parseMoney, refuse } from '@core/ground';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { readSource, type Source } from './read-source';

/** Settles an invoice with a payment or a credit note, as far as both go or with the amount asked for. */
export async function settleInvoice(
  work: Work,
  invoiceId: Id<'invoice'>,
  { source: kind, sourceId, amount: typed }: SettleForm,
): Promise<Outcome<{ id: string; amount: Money }>> {
  const invoice = await lockInvoice(work, invoiceId);
  if (!invoice || invoice.kind !== 'invoice') return refuse('not-found', 'There is no such invoice.');
  const source = await readSource(work.tx, kind, sourceId);
  if (!source) return refuse('not-found', `There is no such ${kind}.`);
  if (source.clientId !== invoice.clientId)
    return refuse('not-possible-now', `${source.name} is ${source.clientId ? "another client's" : "nobody's yet: say whose it is first"}.`);
  if (source.left.currency !== invoice.left.currency)
    return refuse('not-possible-now', `${source.name} is in ${source.left.currency}, the invoice in ${invoice.left.currency}.`);
  const asked = typed === null ? source.left : parseMoney(typed, source.left.currency);
  const most = money(Math.min(source.left.minor, invoice.left.minor), source.left.currency);
  if (most.minor <= 0)
    return refuse('not-possible-now', source.left.minor <= 0 ? `Nothing is left of ${source.name}.` : 'The invoice is settled already.');
  if (!asked || asked.minor <= 0 || (typed !== null && asked.minor > most.minor))
    return refuse('invalid', `At most ${formatMoney(most)} goes.`, { amount: `above zero and at most ${formatMoney(most)}` });
  const amount = money(Math.min(asked.minor, most.minor), most.currency);
  return { id: await allocate(work, { invoiceId: invoice.id, source, amount }), amount };
}

/** Settles what is left of an invoice with a credit note of it that was just issued. */
export async function settleWithCreditNote(work: Work, invoiceId: Id<'invoice'>, creditNoteId: Id<'invoice'>): Promise<void> {
  await settleAsFarAsItGoes(work, invoiceId, (await readSource(work.tx, 'credit note', creditNoteId))!);
}

/** @returns how much of the source settled the invoice */
export async function settleAsFarAsItGoes(work: Work, invoiceId: Id<'invoice'>, source: Source): Promise<Money> {
  const invoice = (await lockInvoice(work, invoiceId))!;
  const { settled } = allocateMoney(source.left, [invoice]);
  for (const { amount } of settled) await allocate(work, { invoiceId, source, amount });
  return settled[0]?.amount ?? money(0, source.left.currency);
}

/** Takes back what a payment or a credit note settled: it is owed again, and the client's credit again. */
export async function takeSettlementBack(work: Work, settlementId: string, reason: string): Promise<Outcome<{ id: string }>> {
  const row: Row<'allocation'> | undefined = await work.tx('allocation').where({ id: settlementId }).first();
  if (!row) return refuse('not-found', 'There is no such settlement.');
  const invoice = (await lockInvoice(work, row.invoice_id))!;
  const again = await work.tx('allocation').where({ takes_back_id: settlementId }).first('id');
  if (again || row.takes_back_id) return refuse('not-possible-now', 'It was taken back already.');
  const source = (await readSource(work.tx, row.payment_id ? 'payment' : 'credit note', (row.payment_id ?? row.credit_note_id)!))!;
  const [allocated] = await work
    .tx('allocation')
    .insert({
      invoice_id: row.invoice_id,
      payment_id: row.payment_id,
      credit_note_id: row.credit_note_id,
      amount_minor: -row.amount_minor,
      at: at(work.now),
      takes_back_id: settlementId,
    })
    .returning('id');
  const { id } = allocated!;
  const amount = money(row.amount_minor, invoice.left.currency);
  await work.tell('invoice.settlement-taken-back', invoice.id, { amount, from: source.name, reason });
  return { id };
}

interface OpenInvoice {
  readonly id: string;
  readonly kind: string;
  readonly clientId: Id<'client'>;
  readonly left: Money;
}

async function lockInvoice({ tx }: Work, invoiceId: Id<'invoice'>): Promise<OpenInvoice | undefined> {
  const row: (Row<'invoice', 'kind' | 'client_id' | 'gross_minor' | 'currency'> & Row<'invoice_standing', 'settled_minor'>) | undefined =
    await tx('invoice_standing as s')
      .join('invoice as i', 'i.id', 's.invoice_id')
      .where('i.id', invoiceId)
      .forUpdate('s')
      .first('i.kind', 'i.client_id', 'i.gross_minor', 'i.currency', 's.settled_minor');
  return (
    row && {
      id: invoiceId,
      kind: row.kind,
      clientId: row.client_id,
      left: money(row.gross_minor - row.settled_minor, row.currency),
    }
  );
}

async function allocate(
  work: Work,
  { invoiceId, source, amount }: { readonly invoiceId: Id<'invoice'>; readonly source: Source; readonly amount: Money },
): Promise<string> {
  const [allocated] = await work
    .tx('allocation')
    .insert({
      invoice_id: invoiceId,
      payment_id: source.kind === 'payment' ? source.id : null,
      credit_note_id: source.kind === 'credit note' ? source.id : null,
      amount_minor: amount.minor,
      at: at(work.now),
    })
    .returning('id');
  const { id } = allocated!;
  if (source.kind === 'payment') {
    await work.tell('invoice.paid', invoiceId, { amount, paymentId: source.id, reference: source.name });
  } else {
    await work.tell('invoice.credit-used', invoiceId, { amount, creditNoteId: source.id, number: source.name });
    await work.emit('invoice', source.id);
  }
  return id;
}
