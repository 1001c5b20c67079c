import { chargeOfExpense, worthOfExpense, type ExpenseWire } from '@core/time';
import { money } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import { namedWork } from '../../ground';
import type { HouseBook } from '../../house';
type Narrow = (query: ReturnType<Db>) => unknown;

/** An expense with its category, work and client; `frozen` where money was decided on. */
type ExpenseShown = Row<'expense'> &
  Row<'work_facts', 'number' | 'subject' | 'ticket_kind'> & {
    readonly category: string;
    readonly client: string | null;
    readonly remark: string | null;
    readonly frozen: boolean;
  };

/** Expenses with what the client is charged for each, in order of day. */
export async function readExpenses(db: Db, book: HouseBook, narrow: Narrow): Promise<ExpenseWire[]> {
  const query = db('expense as x')
    .join('expense_category as k', 'k.id', 'x.category_id')
    .join('work_facts as w', 'w.id', 'x.work_id')
    .leftJoin('client as c', 'c.id', 'x.client_id')
    .whereNull('x.removed_at');
  narrow(query as never);
  const rows: ExpenseShown[] = await query
    .orderBy(['x.day', 'x.id'])
    .select(
      'x.*',
      'k.name as category',
      'w.number',
      'w.subject',
      'w.ticket_kind',
      'c.name as client',
      db.raw(
        `(select d.remark from time_decision d where d.expense_id = x.id and d.decision = 'return' order by d.id desc limit 1) as remark`,
      ),
      db.raw(`exists (select 1 from charge ch where ch.expense_id = x.id and ch.state in ('approved', 'waived')) as frozen`),
    );
  return rows.map((x) => expenseWire(book, x));
}

function expenseWire(book: HouseBook, x: ExpenseShown): ExpenseWire {
  const paid = money(x.paid_minor, x.currency);
  const exchange = x.exchange && plainDecimal(x.exchange);
  const [taxPercent, markupPercent] = [plainDecimal(x.tax_percent), plainDecimal(x.markup_percent)];
  const worth = worthOfExpense({ paid, exchange, taxPercent }, book.house.currency);
  const charged = isExpenseCharged(x) ? chargeOfExpense(worth.net, markupPercent) : null;
  return {
    id: x.id,
    version: x.version,
    day: x.day,
    ...namedWork(x),
    client: x.client,
    categoryId: x.category_id,
    category: x.category,
    paid,
    exchange,
    gross: worth.gross,
    net: worth.net,
    taxPercent,
    note: x.note,
    billable: x.billable,
    markupPercent,
    charge: charged?.net ?? null,
    why: [...worth.explanation, ...(charged?.explanation ?? [{ rule: 'not charged to a client' }])],
    ownMoney: x.own_money,
    receipt: x.receipt_blob === null ? null : { name: x.receipt_name!, mediaType: x.receipt_type!, bytes: x.receipt_bytes! },
    approval: x.approval,
    remark: x.approval === 'returned' ? x.remark : null,
    reimbursedOn: x.reimbursed_on,
    frozen: x.frozen,
  };
}

/** Whether an expense goes to a client at all; flat fees and internal tickets have everything in them. */
export function isExpenseCharged(x: Row<'expense', 'billable' | 'client_id'> & Row<'work_facts', 'ticket_kind'>): boolean {
  return x.billable && x.client_id !== null && x.ticket_kind !== 'internal' && x.ticket_kind !== 'flat-fee job';
}
