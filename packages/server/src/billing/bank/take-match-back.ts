import { formatMoney, type Id, isRefusal, money, type Outcome, refuse } from '@core/ground';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { readSource } from '../payments/read-source';
import { takeSettlementBack } from '../payments/settle-invoice';
import { sayLine } from './match-line';

const WHY = 'The match of the bank line was taken back.';

/** Takes matches of lines back: what their payments settled is owed again, the payments are none, and the lines wait to be matched. */
export async function takeMatchesBack(work: Work, ids: readonly Id<'bank_line'>[]): Promise<Outcome<{ lines: number }>> {
  const lines: Row<'bank_line'>[] = await work.tx('bank_line').whereIn('id', ids).orderBy('id').forUpdate();
  if (lines.length < new Set(ids).size) return refuse('not-found', 'One of the lines is not there.');
  const other = lines.find((line) => line.state !== 'matched');
  if (other) return refuse('not-possible-now', `The line "${sayLine(other)}" is ${other.state}.`);
  for (const line of lines) {
    const taken = await takeBack(work, line);
    if (isRefusal(taken)) return taken;
  }
  return { lines: lines.length };
}

async function takeBack(work: Work, line: Row<'bank_line'>): Promise<Outcome<void>> {
  const payment = (await work.tx('payment').where({ id: line.payment_id! }).forUpdate().first())!;
  await work.tx('bank_line').where({ id: line.id }).update({ state: 'open', payment_id: null });
  // What was written down by hand or came by the ledger stays: the bank's line alone is no more of it.
  if (payment.source === 'bank') {
    const stand: Id<'allocation'>[] = await work
      .tx('allocation as a')
      .where({ payment_id: payment.id, takes_back_id: null })
      .whereNotExists(work.tx('allocation as b').whereRaw('b.takes_back_id = a.id').select('b.id'))
      .orderBy('a.id')
      .pluck('a.id');
    for (const settlementId of stand) {
      const taken = await takeSettlementBack(work, settlementId, WHY);
      if (isRefusal(taken)) return taken;
    }
    const { left } = (await readSource(work.tx, 'payment', payment.id))!;
    await work.tx('payment_return').insert({ payment_id: payment.id, amount_minor: left.minor, at: at(work.now), reason: WHY });
    await work.tell('payment.taken-back', payment.id, { amount: left, reason: WHY });
  }
  const client = payment.client_id && (await work.tx('client').where({ id: payment.client_id }).first('name'));
  await work.tell('statement.match-taken-back', line.statement_id, { line: sayLine(line), client: client ? client.name : 'nobody' });
}

/** Says why an open line is no payment of a client, such as interest. */
export async function leaveLineOut(
  work: Work,
  { bankLineId, reason }: { readonly bankLineId: Id<'bank_line'>; readonly reason: string },
): Promise<Outcome<Record<never, never>>> {
  const line = await change(work, bankLineId, { from: 'open', to: { state: 'left out', reason } });
  if (isRefusal(line)) return line;
  await work.tell('statement.line-left-out', line.statement_id, { line: sayLine(line), reason });
  return {};
}

export async function putLineBack(work: Work, bankLineId: Id<'bank_line'>): Promise<Outcome<Record<never, never>>> {
  const line = await change(work, bankLineId, { from: 'left out', to: { state: 'open', reason: null } });
  if (isRefusal(line)) return line;
  await work.tell('statement.line-put-back', line.statement_id, { line: sayLine(line) });
  return {};
}

interface Change {
  readonly from: 'open' | 'left out';
  readonly to: { readonly state: 'open' | 'left out'; readonly reason: string | null };
}

async function change(work: Work, id: Id<'bank_line'>, { from, to }: Change): Promise<Outcome<Row<'bank_line'>>> {
  const line = await work.tx('bank_line').where({ id }).forUpdate().first();
  if (!line) return refuse('not-found', 'There is no such line.');
  if (line.state !== from)
    return refuse('not-possible-now', `The line of ${formatMoney(money(line.amount_minor, line.currency))} is ${line.state}.`);
  await work.tx('bank_line').where({ id }).update(to);
  return line;
}
