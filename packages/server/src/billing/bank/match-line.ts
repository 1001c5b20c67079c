import { indexFacts, type LineMatchForm, type Match, type MatchFacts, MOST_MATCHED, proposeMatches } from '@core/billing';
import { dateOf, formatMoney, type Id, isRefusal, money, type Outcome, plainMoney, refuse } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { readSource } from '../payments/read-source';
import { settleInvoice } from '../payments/settle-invoice';
import { takePayment } from '../payments/take-payment';
import { bankLineOf, readMatchFacts } from './match-facts';

/** A line as people say it. */
export function sayLine({ booked_on, payer, text, amount_minor, currency }: Row<'bank_line'>): string {
  return [booked_on, payer, formatMoney(money(amount_minor, currency)), text].filter(Boolean).join(', ').slice(0, 300);
}

/** Says what an open line is: money of a client, which settles invoices; or a payment that was written down before. */
export async function matchLine(work: Work, form: LineMatchForm): Promise<Outcome<{ id: Id<'payment'> }>> {
  const line = await work.tx('bank_line').where({ id: form.lineId }).forUpdate().first();
  if (!line) return refuse('not-found', 'There is no such line.');
  if (line.state !== 'open') return refuse('not-possible-now', `This line is ${line.state} already.`);
  const client = await work.tx('client').where({ id: form.clientId }).first('id', 'name');
  if (!client) return refuse('invalid', 'There is no such client.', { clientId: 'choose a client' });
  const sum = form.settles.reduce((all, { minor }) => all + minor, 0);
  if (sum > line.amount_minor) {
    const most = formatMoney(money(line.amount_minor, line.currency));
    return refuse('invalid', `It settles more than came: at most ${most} goes.`, { settles: `at most ${most} together` });
  }
  const payment = form.paymentId ? await sameAs(work, line, form) : await receive(work, line, form);
  if (isRefusal(payment)) return payment;
  await work.tx('bank_line').where({ id: line.id }).update({ state: 'matched', payment_id: payment.id });
  await work.tell('statement.line-matched', line.statement_id, { line: sayLine(line), client: client.name, paymentId: payment.id });
  return payment;
}

/** The payment that was written down before: it settles what it settled, and nothing comes twice. */
async function sameAs(work: Work, line: Row<'bank_line'>, form: LineMatchForm): Promise<Outcome<{ id: Id<'payment'> }>> {
  const payment = await work.tx('payment').where({ id: form.paymentId!, client_id: form.clientId }).forUpdate().first();
  const other = payment && (await work.tx('bank_line').where({ payment_id: payment.id }).first('id'));
  if (!payment || other) return refuse('not-possible-now', 'That payment is of another line, or of another client.');
  if (payment.amount_minor !== line.amount_minor || payment.currency !== line.currency)
    return refuse('invalid', `That payment is ${formatMoney(money(payment.amount_minor, payment.currency))}.`, {
      paymentId: 'a payment of the same amount',
    });
  if (form.settles.length) return refuse('invalid', 'What was written down before settles what it settled.', { settles: 'nothing more' });
  return { id: payment.id };
}

async function receive(work: Work, line: Row<'bank_line'>, form: LineMatchForm): Promise<Outcome<{ id: Id<'payment'> }>> {
  const today = dateOf(work.now, work.book.house.zone);
  const received = {
    clientId: form.clientId,
    amount: money(line.amount_minor, line.currency),
    // A bank may book ahead of a weekend.
    receivedOn: line.booked_on > today ? today : line.booked_on,
    source: 'bank' as const,
    externalId: null,
    reference: (line.text || line.payer || line.place).slice(0, 200),
  };
  const payment = (await takePayment(work, received, null))!;
  for (const { invoiceId, minor } of form.settles) {
    const source = (await readSource(work.tx, 'payment', payment.id))!;
    const amount = { source: 'payment' as const, sourceId: source.id, amount: plainMoney(money(minor, line.currency)) };
    const settled = await settleInvoice(work, invoiceId, amount);
    if (isRefusal(settled)) return settled;
  }
  return payment;
}

/**
 * Matches all lines of which it is sure what they are, one after the other, as each takes something off what is open.
 * @returns a refusal where they are not what was seen
 */
export async function matchSure(
  work: Work,
  seen: { readonly lines: number; readonly minor: number },
): Promise<Outcome<{ ids: Id<'bank_line'>[] }>> {
  const sure = await lockSure(work);
  const minor = sure.reduce((sum, { line }) => sum + line.amount_minor, 0);
  if (sure.length !== seen.lines || minor !== seen.minor)
    return refuse('changed-meanwhile', 'What is sure has changed meanwhile. Look at it again.');
  for (const { line, match } of sure) {
    const settles = match.settles.map(({ invoiceId, amount }) => ({ invoiceId, minor: amount.minor }));
    const matched = await matchLine(work, { lineId: line.id, clientId: match.clientId, settles, paymentId: null });
    if (isRefusal(matched)) return matched;
  }
  return { ids: sure.map(({ line }) => line.id) };
}

async function lockSure(work: Work) {
  const lines: Row<'bank_line'>[] = await work
    .tx('bank_line')
    .where({ state: 'open' })
    .orderBy(['booked_on', 'id'])
    .forUpdate()
    .limit(MOST_OPEN);
  return sureOf(lines, await readMatchFacts(work.tx));
}

/** So many open lines are looked at for what is sure. */
export const MOST_OPEN = 5000;

/** The lines of which it is sure what they are; of two that would settle the same invoice, the first. */
export function sureOf(
  lines: readonly Row<'bank_line'>[],
  facts: MatchFacts,
): readonly { readonly line: Row<'bank_line'>; readonly match: Match }[] {
  const [taken, index] = [new Set<string>(), indexFacts(facts)];
  const sure: { line: Row<'bank_line'>; match: Match }[] = [];
  for (const line of lines) {
    const match = proposeMatches(bankLineOf(line), index).find((m) => m.sure);
    if (!match || match.settles.some((s) => taken.has(s.invoiceId)) || sure.length === MOST_MATCHED) continue;
    for (const { invoiceId } of match.settles) taken.add(invoiceId);
    sure.push({ line, match });
  }
  return sure;
}
