import { expenseRoutes, type ExpenseCategoryWire } from '@core/time';
import { holds, isRefusal, parseLocalDate, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import { addHouseRecord, archiveHouseRecord, editHouseRecord, HOUSE_STORY } from '../../house';
import { readExpenses } from './read-expenses';
import { addExpense, editExpense, putReceipt, removeExpense } from './record-expense';
import { payBack, readReimbursements } from './reimbursements';

const CATEGORY = { table: 'expense_category', word: 'category of expenses' };
const columnsOf = (form: Omit<ExpenseCategoryWire, 'id' | 'version'>) => ({
  name: form.name,
  tax_percent: form.taxPercent,
  billable: form.billable,
  markup_percent: form.markupPercent,
});

export function bindExpenses(app: App) {
  const { house, blobs } = app;
  return bindRoutes(app, expenseRoutes, {
    listExpenses: async ({ db, actor, query }) => ({
      expenses: await readExpenses(db, house, (q) =>
        q.where({ 'x.person_id': actor.personId }).whereBetween('x.day', [query.from, query.to]),
      ),
      categories: await readCategories(db),
      distance: house.house.time.distance,
      currency: house.house.currency,
    }),
    addExpense: ({ work, body }) => addExpense(work, house, body),
    editExpense: ({ work, params, version, body }) => editExpense(work, house, { id: params.expenseId, version, form: body }),
    removeExpense: ({ work, params, version }) => removeExpense(work, params.expenseId, version),
    putReceipt: ({ work, params, query, upload }) => putReceipt({ work, blobs }, params.expenseId, { ...query, bytes: upload }),
    getReceipt: async ({ db, params, actor }) => {
      const x: Row<'expense'> | undefined = await db('expense').where({ id: params.expenseId }).whereNotNull('receipt_blob').first();
      const may = x && (x.person_id === actor.personId || (actor.role && holds(actor.role, 'expenses.pay')));
      if (!x || !may) return refuse('not-found', 'There is no such receipt.');
      return { bytes: await blobs.get(x.receipt_blob!), name: x.receipt_name!, mediaType: x.receipt_type! };
    },
    addExpenseCategory: ({ work, body }) => addHouseRecord(work, CATEGORY, columnsOf(body)),
    editExpenseCategory: ({ work, params, version, body }) =>
      editHouseRecord(work, { record: CATEGORY, id: params.expenseCategoryId, version, row: columnsOf(body) }),
    archiveExpenseCategory: ({ work, params, version }) =>
      archiveHouseRecord(work, { record: CATEGORY, id: params.expenseCategoryId, version }),
    setDistances: async ({ work, body }) => {
      await work.tx('time_settings').update({ distance_unit: body.unit, distance_rate: body.rate, distance_paid_back: body.paidBack });
      await work.tell('setup.distances-set', HOUSE_STORY, { rate: body.rate, paidBack: body.paidBack, unit: body.unit });
      return {};
    },
    listReimbursements: ({ db, query }) =>
      readReimbursements(db, house, { from: parseLocalDate(query.from), to: parseLocalDate(query.to) }),
    payBack: async ({ work, body }) => {
      const done = await payBack(work, body);
      if (!isRefusal(done)) await work.emit('entry', null);
      return done;
    },
  });
}

async function readCategories(db: Db): Promise<ExpenseCategoryWire[]> {
  const rows: Row<'expense_category'>[] = await db('expense_category').whereNull('archived_at').orderByRaw('lower(name)');
  return rows.map((k) => ({
    id: k.id,
    version: k.version,
    name: k.name,
    taxPercent: plainDecimal(k.tax_percent),
    billable: k.billable,
    markupPercent: plainDecimal(k.markup_percent),
  }));
}
