import { type Allowance, CALENDAR_ANCHOR, type CoverRule, type CoverTerms, type RecurringLine } from '../src/contracts';
import type { LocalDate } from '../src/ground';

const START = '2026-01-01' as LocalDate;

/** 12 h a month, nothing carried over or borrowed. */
export const HOURS: Allowance = {
  id: 'hours',
  name: 'Hours',
  measure: 'hours',
  grant: 720,
  each: 'each period',
  granted: 'whole',
  carryDays: 0,
  borrowPercent: 0,
  later: [],
  blocks: [],
};

/** All work draws on the hours, without call-outs. */
export const ALL_WORK: CoverRule = {
  id: 'all',
  gradeIds: null,
  activityIds: null,
  bands: null,
  deskIds: null,
  kinds: null,
  from: null,
  to: null,
  allowanceId: 'hours',
  cap: null,
  overageFactor: null,
  includesFees: false,
};

export const HOURS_A_MONTH: CoverTerms = {
  from: START,
  to: null,
  schedule: { frequency: 'monthly', anchor: CALENDAR_ANCHOR },
  rules: [ALL_WORK],
  allowances: [HOURS],
  overageFactor: '1',
};

/** €32.00 a seat a month, in advance by ten days, with nobody on it. */
export const SEAT_LINE: RecurringLine = {
  counted: 'seat',
  from: START,
  to: null,
  schedule: { frequency: 'monthly', anchor: CALENDAR_ANCHOR },
  paid: 'in advance',
  leadDays: 10,
  proration: 'daily',
  minimum: null,
  maximum: null,
  priced: 'one price',
  prices: [{ from: START, price: '32', tiers: [] }],
  discounts: [],
  units: [],
  readings: [],
  unitCost: null,
};
