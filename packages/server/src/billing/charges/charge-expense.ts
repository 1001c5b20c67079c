import { type ChargeMark, taxOfCharge } from '@core/billing';
import { majorOf, money, type Outcome } from '@core/ground';
import type { Columns } from '../../app/database';
import type { Work } from '../../app/work';
import { isExpenseCharged, readExpenses } from '../../time/expenses/read-expenses';

/** Makes the proposed charge of an expense anew: its net amount with its markup, taxed as the client's labour is. */
export async function chargeExpense(work: Work, expenseId: string): Promise<Outcome<unknown>> {
  const { book } = work;
  await work.tx('charge').where({ expense_id: expenseId, state: 'proposed' }).delete();
  const row: Columns | undefined = await work
    .tx('expense as x')
    .leftJoin('ticket as t', 't.id', 'x.ticket_id')
    .leftJoin('client as c', 'c.id', 'x.client_id')
    .where('x.id', expenseId)
    .whereNull('x.removed_at')
    .first('x.*', 't.kind', 't.division_id', 'c.tax_exempt');
  await work.emit('charge', null);
  if (!row || !isExpenseCharged(row)) return {};
  const expense = (await readExpenses(work.tx, book, (q) => q.where('x.id', expenseId)))[0]!;
  const tax = taxOfCharge(book.house.labourTax, row['tax_exempt']);
  const net = expense.charge ?? money(0, book.house.currency);
  await work.tx('charge').insert({
    division_id: row['division_id'],
    client_id: row['client_id'],
    ticket_id: row['ticket_id'],
    expense_id: expenseId,
    person_id: row['person_id'],
    kind: 'expense',
    on_date: row['day'],
    description: [expense.category, expense.note].filter(Boolean).join(': ').slice(0, 500),
    quantity: 1,
    unit: 'C62',
    unit_price: majorOf(net).toFixed(),
    net_minor: net.minor,
    currency: net.currency,
    tax_category: tax.category,
    tax_percent: tax.percent,
    explanation: JSON.stringify(expense.why),
    odd: (expense.receipt ? [] : ['no receipt']) satisfies ChargeMark[],
  });
  return {};
}
