import { array, string } from 'yup';
import { APPROVALS } from '../time-entries';
import {
  amount,
  count,
  currency,
  date,
  decimal,
  defineRoutes,
  done,
  id,
  list,
  MOST_UPLOAD_BYTES,
  nothing,
  oneOf,
  optionalDate,
  optionalDecimal,
  optionalId,
  optionalText,
  positiveDecimal,
  record,
  text,
  why,
  type Wire,
  yes,
  workFields,
} from '../../ground';
import { DISTANCE_UNITS } from './worth-of-distance';

const MOST_PERCENT = 1000;
const percent = (most: number) =>
  decimal().test('percent', `from 0 to ${most} percent`, (v) => !Number.isFinite(Number(v)) || (Number(v) >= 0 && Number(v) <= most));
const aboveZero = () => optionalDecimal().test('positive', 'above zero', (v) => !v || !Number.isFinite(Number(v)) || Number(v) > 0);

export const expenseFormSchema = record({
  day: date(),
  /** What it was paid for; internal work that has no name where nothing is said. */
  workId: optionalId('work'),
  categoryId: id('expense_category'),
  /** What was paid, tax included, in the currency it was paid in. */
  paid: positiveDecimal(),
  currency: currency(),
  /** Units of the house's currency for one of this. */
  exchange: aboveZero(),
  taxPercent: percent(100),
  note: optionalText(500),
  billable: yes(),
  markupPercent: percent(MOST_PERCENT),
  /** Paid with own money, to be paid back; else with the provider's. */
  ownMoney: yes(),
});
export type ExpenseForm = Wire<typeof expenseFormSchema>;
export const expenseSchema = record({
  id: id('expense'),
  version: count(),
  day: date(),
  ...workFields,
  client: optionalText(),
  categoryId: id('expense_category'),
  category: text(),
  paid: amount(),
  exchange: optionalDecimal(),
  gross: amount(),
  net: amount(),
  taxPercent: decimal(),
  note: optionalText(500),
  billable: yes(),
  markupPercent: decimal(),
  /** What the client is charged; null where nothing is. */
  charge: amount().nullable(),
  why: why(),
  ownMoney: yes(),
  receipt: record({ name: text(255), mediaType: text(120), bytes: count() }).nullable(),
  approval: oneOf(APPROVALS),
  /** What a manager said when they returned it. */
  remark: optionalText(500),
  reimbursedOn: optionalDate(),
  /** Its charge was decided on. */
  frozen: yes(),
});
export type ExpenseWire = Wire<typeof expenseSchema>;
export const expenseCategoryFormSchema = record({
  name: text(60),
  taxPercent: percent(100),
  billable: yes(),
  markupPercent: percent(MOST_PERCENT),
});
export const expenseCategorySchema = record({
  id: id('expense_category'),
  version: count(),
  name: text(60),
  taxPercent: decimal(),
  billable: yes(),
  markupPercent: decimal(),
});
export type ExpenseCategoryWire = Wire<typeof expenseCategorySchema>;
export const distanceSettingsSchema = record({ unit: oneOf(DISTANCE_UNITS), rate: percent(MOST_PERCENT), paidBack: percent(MOST_PERCENT) });
export type DistanceSettings = Wire<typeof distanceSettingsSchema>;

const spanFields = { from: date(), to: date() };
export const reimbursementSchema = record({
  id: id(),
  what: oneOf(['expense', 'distance']),
  personId: id('person'),
  person: text(),
  day: date(),
  says: text(600),
  number: count().nullable(),
  client: optionalText(),
  amount: amount(),
  reimbursedOn: optionalDate(),
});
export type ReimbursementWire = Wire<typeof reimbursementSchema>;

export const expenseRoutes = defineRoutes({
  listExpenses: {
    method: 'GET',
    path: '/expenses',
    summary: 'Your expenses of a span of dates, both included',
    permission: 'time.own',
    query: record(spanFields),
    answer: record({
      expenses: list(expenseSchema),
      categories: list(expenseCategorySchema),
      distance: distanceSettingsSchema,
      currency: currency(),
    }),
  },
  addExpense: {
    method: 'POST',
    path: '/expenses',
    summary: 'Write an expense down',
    permission: 'time.own',
    body: expenseFormSchema,
    answer: done(),
  },
  editExpense: {
    method: 'PUT',
    path: '/expenses/:expenseId',
    summary: 'Change an expense of yours',
    permission: 'time.own',
    versioned: true,
    body: expenseFormSchema,
    answer: done(),
  },
  removeExpense: {
    method: 'DELETE',
    path: '/expenses/:expenseId',
    summary: 'Remove an expense of yours',
    permission: 'time.own',
    versioned: true,
    answer: nothing(),
  },
  putReceipt: {
    method: 'POST',
    path: '/expenses/:expenseId/receipt',
    summary: 'Put the picture of a receipt to an expense, in place of one that is there; the bytes are the body',
    permission: 'time.own',
    upload: MOST_UPLOAD_BYTES,
    query: record({
      name: text(255),
      mediaType: string()
        .trim()
        .lowercase()
        .required('a picture or a PDF')
        .max(120)
        .matches(/^(image\/(png|jpeg|webp|heic)|application\/pdf)$/, 'a picture (PNG, JPEG, WebP, HEIC) or a PDF'),
    }),
    answer: done(),
  },
  getReceipt: {
    method: 'GET',
    path: '/expenses/:expenseId/receipt',
    summary: "The receipt of an expense: one's own, or anybody's for who approves",
    permission: 'signed in',
    file: 'application/octet-stream',
    answer: record({}),
  },
  addExpenseCategory: {
    method: 'POST',
    path: '/expense-categories',
    summary: 'Add a category of expenses',
    permission: 'setup.edit',
    body: expenseCategoryFormSchema,
    answer: done(),
  },
  editExpenseCategory: {
    method: 'PUT',
    path: '/expense-categories/:expenseCategoryId',
    summary: 'Change a category; expenses that have it keep what they were written down with',
    permission: 'setup.edit',
    versioned: true,
    body: expenseCategoryFormSchema,
    answer: done(),
  },
  archiveExpenseCategory: {
    method: 'POST',
    path: '/expense-categories/:expenseCategoryId/archive',
    summary: 'Put such a category away',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
  setDistances: {
    method: 'PUT',
    path: '/house/distances',
    summary: 'Set what distances are measured in, charged at and paid back at',
    permission: 'setup.edit',
    body: distanceSettingsSchema,
    answer: nothing(),
  },
  listReimbursements: {
    method: 'GET',
    path: '/reimbursements',
    summary: 'Approved expenses of own money and distances of a span, to be paid back to people',
    permission: 'expenses.pay',
    query: record(spanFields),
    answer: record({ rows: list(reimbursementSchema), open: amount() }),
  },
  payBack: {
    method: 'POST',
    path: '/reimbursements',
    summary: 'Say that these were paid back; each can be once',
    permission: 'expenses.pay',
    body: record({ expenses: array(id()).defined().max(2000), distances: array(id()).defined().max(2000), on: date() }),
    answer: record({ paid: count() }),
  },
});
