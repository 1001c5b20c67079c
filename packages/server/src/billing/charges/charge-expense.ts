import { draftCharges, taxOfCharge } from '@core/billing';
import { type Id, money, type Outcome } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { isExpenseCharged, readExpenses } from '../../time';
import { lookAtCharges } from './look-at-charges';
import { type WantedCharge, storeCharges } from './store-charges';

/** Makes the proposed charge of an expense anew: its net amount with its markup, taxed as the client's labour is. */
export async function chargeExpense(work: Work, expenseId: Id<'expense'>): Promise<Outcome<unknown>> {
  await storeCharges(work, { expense_id: expenseId }, await wantedOf(work, expenseId));
  await lookAtCharges(work, { expenseIds: [expenseId] });
  return {};
}

async function wantedOf(work: Work, expenseId: Id<'expense'>): Promise<WantedCharge[]> {
  const { book } = work;
  const row:
    | (Row<'expense'> & Row<'work_facts', 'ticket_kind'> & { readonly division_id: string; readonly tax_exempt: boolean | null })
    | undefined = await work
    .tx('expense as x')
    .join('work_facts as w', 'w.id', 'x.work_id')
    .leftJoin('client as c', 'c.id', 'x.client_id')
    .where('x.id', expenseId)
    .whereNull('x.removed_at')
    .first('x.*', 'w.ticket_kind', work.tx.raw('coalesce(w.division_id, c.division_id) as division_id'), 'c.tax_exempt');
  if (!row || !isExpenseCharged(row)) return [];
  const expense = (await readExpenses(work.tx, book, (q) => q.where('x.id', expenseId)))[0]!;
  const owner = {
    divisionId: row.division_id,
    clientId: row.client_id!,
    ticketId: row.ticket_id,
    personId: row.person_id,
    on: row.day,
    tax: taxOfCharge(book.division(row.division_id).labourTax, row.tax_exempt ?? false),
  };
  const { category, note, charge, why } = expense;
  return draftCharges({
    is: 'expense',
    category,
    note,
    hasReceipt: Boolean(expense.receipt),
    net: charge ?? money(0, book.house.currency),
    why,
  }).map((draft) => ({ draft, owner }));
}
