import { inject } from '@angular/core';
import { map } from 'rxjs';
import { expenseCategoryFormSchema, expenseRoutes, type ExpenseCategoryWire } from '@core/time';
import type { SetupRow, SetupSection } from '../../ui/setup-list';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { isoDay } from '../../ui/time-format';

type Row = ExpenseCategoryWire & SetupRow;

/** Categories of expenses in Setup; called where injection is possible. */
export function expenseCategoriesSection(): SetupSection<Row, typeof expenseCategoryFormSchema> {
  const [api, session] = [inject(Api), inject(Session)];
  return {
    heading: 'Categories of expenses',
    intro: 'What an expense of a category begins with. Expenses that were written down keep what they have.',
    addWords: 'Add a category',
    none: 'No category yet. Add one, such as Parking.',
    rows: () => {
      const day = isoDay(session.now(), session.zone);
      return api.call(expenseRoutes.listExpenses, { query: { from: day, to: day } }).pipe(
        map(({ categories }) =>
          categories.map((k) => ({
            ...k,
            says: `tax ${k.taxPercent} %, ${k.billable ? `charged to clients with a markup of ${k.markupPercent} %` : 'not charged to clients'}`,
          })),
        ),
      );
    },
    draft: 'expense-category',
    schema: expenseCategoryFormSchema,
    fresh: () => ({ name: '', taxPercent: '23', billable: true, markupPercent: '0' }),
    lines: () => [
      { name: 'name', label: 'Name' },
      { name: 'taxPercent', label: 'Tax in it, %', kind: 'number' },
      { name: 'billable', label: 'Charged to clients', kind: 'yes' },
      { name: 'markupPercent', label: 'Markup, %', kind: 'number', when: (v) => v['billable'] === true },
    ],
    add: (body) => api.call(expenseRoutes.addExpenseCategory, { body }),
    edit: (row, version, body) => api.call(expenseRoutes.editExpenseCategory, { params: { expenseCategoryId: row.id }, version, body }),
    archive: (row) => api.call(expenseRoutes.archiveExpenseCategory, { params: { expenseCategoryId: row.id }, version: row.version }),
  };
}
