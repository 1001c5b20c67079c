import {
  count,
  date,
  defineRoutes,
  id,
  list,
  oneOf,
  optionalOneOf,
  record,
  seenVersion,
  shape,
  text,
  whole,
  type Wire,
} from '../../ground';
import { BILLED_EVERY, type BilledEvery, INVOICE_PER, type OwnTerms } from './billing-terms';

export const MOST_LEAD_DAYS = 120;
/** The days of each month in the longest year. */
const LENGTHS = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** What each rhythm has to say. */
interface Rhythmic {
  readonly every?: BilledEvery | null;
  readonly weekday?: number | null;
  readonly day?: number | null;
  readonly month?: number | null;
}
const isOnDays = ({ every }: Rhythmic) => every === 'month' || every === 'quarter' || every === 'year';

const dayFields = {
  weekday: whole(1, 7)
    .nullable()
    .test('weekday', 'choose a day of the week', function (v) {
      return (this.parent as Rhythmic).every !== 'week' || v !== null;
    }),
  day: whole(1, 31)
    .nullable()
    .test('day', 'write a day from 1 to 31', function (v) {
      return !isOnDays(this.parent as Rhythmic) || v !== null;
    })
    .test('of-month', 'that month has fewer days', function (v) {
      const { every, month } = this.parent as Rhythmic;
      return every !== 'year' || v === null || v === undefined || !month || v <= (LENGTHS[month - 1] ?? 31);
    }),
  month: whole(1, 12)
    .nullable()
    .test('month', 'choose a month', function (v) {
      const { every } = this.parent as Rhythmic;
      return every === 'year' ? v !== null : every !== 'quarter' || (v !== null && v !== undefined && v <= 3);
    }),
};

const houseFields = { every: oneOf(BILLED_EVERY), ...dayFields, per: oneOf(INVOICE_PER), leadDays: whole(0, MOST_LEAD_DAYS) };
export const houseTermsSchema = record(houseFields);
export type HouseTermsForm = Wire<typeof houseTermsSchema>;

/** A client's own; null is as the house does. */
const ownFields = {
  every: optionalOneOf(BILLED_EVERY),
  ...dayFields,
  per: optionalOneOf(INVOICE_PER),
  leadDays: whole(0, MOST_LEAD_DAYS).nullable(),
};
export const clientTermsSchema = record(ownFields);
export type ClientTermsForm = Wire<typeof clientTermsSchema>;

/** What holds for a client now. */
const holdsSchema = record({ ...houseFields, billedAsOf: date(), nextDay: date() });

export const billingTermsRoutes = defineRoutes({
  getHouseTerms: {
    method: 'GET',
    path: '/billing-terms',
    summary: 'When clients are billed and on how many invoices, and which clients have terms of their own',
    permission: 'invoices.read',
    answer: record({
      version: count(),
      ...houseFields,
      clients: list(record({ clientId: id('client'), client: text(), own: shape<OwnTerms>() })),
    }),
  },
  setHouseTerms: {
    method: 'PUT',
    path: '/billing-terms',
    summary: 'When clients without terms of their own are billed, and on how many invoices',
    permission: 'invoices.issue',
    versioned: true,
    body: houseTermsSchema,
    answer: record({ version: count() }),
  },
  getClientTerms: {
    method: 'GET',
    path: '/clients/:clientId/billing-terms',
    summary: 'When a client is billed and on how many invoices',
    permission: 'invoices.read',
    answer: record({ version: seenVersion(), own: record(ownFields), holds: holdsSchema }),
  },
  setClientTerms: {
    method: 'PUT',
    path: '/clients/:clientId/billing-terms',
    summary: 'Give a client terms of its own; what is null is as the house does',
    permission: 'invoices.issue',
    versioned: true,
    body: clientTermsSchema,
    answer: record({ version: count() }),
  },
});
