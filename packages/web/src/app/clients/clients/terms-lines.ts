import { BILLED_EVERY, type BilledEvery, INVOICE_PER, type InvoicePer } from '@core/billing';
import type { Line } from '../../ui/record-form';

const EVERY_LABELS: Readonly<Record<BilledEvery, string>> = {
  run: 'with every run',
  week: 'each week',
  month: 'each month',
  quarter: 'each quarter',
  year: 'each year',
};
const PER_LABELS: Readonly<Record<InvoicePer, string>> = {
  client: 'one for all of it',
  contract: 'one for each contract',
  site: 'one for each site',
  'purchase order': 'one for each purchase order',
};
const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const MONTHS = 'January,February,March,April,May,June,July,August,September,October,November,December'.split(',');
const IN_QUARTER = ['first month', 'second month', 'third month'];

type Values = Readonly<Record<string, unknown>>;
const isEvery =
  (...those: readonly BilledEvery[]) =>
  (v: Values) =>
    those.includes(v['every'] as BilledEvery);

interface Numbered {
  readonly name: string;
  readonly label: string;
  readonly every: BilledEvery;
}

/** A choice among the first of some, kept as its number from 1. */
function numbered({ name, label, every }: Numbered, words: readonly string[]): Line {
  return {
    name,
    label,
    kind: 'choice',
    none: 'choose one',
    options: words.map((word, n) => ({ value: String(n + 1), label: word })),
    when: isEvery(every),
    read: (v) => (v[name] === null || v[name] === undefined ? '' : String(v[name])),
    write: (typed) => ({ [name]: typed ? Number(typed) : null }),
  };
}

const DAYS: readonly Line[] = [
  numbered({ name: 'weekday', label: 'Day of the week', every: 'week' }, WEEKDAYS),
  numbered({ name: 'month', label: 'Month of the quarter', every: 'quarter' }, IN_QUARTER),
  numbered({ name: 'month', label: 'Month', every: 'year' }, MONTHS),
  { name: 'day', label: 'Day of the month; 31 is the last', kind: 'number', when: isEvery('month', 'quarter', 'year') },
];
const every = BILLED_EVERY.map((value) => ({ value, label: EVERY_LABELS[value] }));
const per = INVOICE_PER.map((value) => ({ value, label: PER_LABELS[value] }));

/** When clients are billed, as a form asks for it. */
export const houseTermsLines: readonly Line[] = [
  { name: 'every', label: 'Billed', kind: 'choice', options: every },
  ...DAYS,
  { name: 'per', label: 'Invoices', kind: 'choice', options: per },
  { name: 'leadDays', label: 'What is paid in advance, days before', kind: 'number' },
];
/** The same of a client; what is empty is as the house does. */
export const clientTermsLines: readonly Line[] = [
  { name: 'every', label: 'Billed', kind: 'choice', none: 'as the house does', options: every },
  ...DAYS,
  { name: 'per', label: 'Invoices', kind: 'choice', none: 'as the house does', options: per },
  { name: 'leadDays', label: 'What is paid in advance, days before', kind: 'number', placeholder: 'as the house does' },
];
