import type { LineForm } from './contracts-wire';

/** Days before a period begins that a line is due, where nobody says another number. */
const USUAL_LEAD = 10;

/** What a line is where nobody says otherwise: one always, monthly with the calendar, in advance, by the day. */
export const USUAL_LINE: Omit<LineForm, 'name' | 'price' | 'startsOn'> = {
  counted: 'flat',
  priced: 'one price',
  tiers: [],
  frequency: 'monthly',
  anchored: 'the calendar',
  paid: 'in advance',
  leadDays: USUAL_LEAD,
  proration: 'daily',
  minimum: null,
  maximum: null,
  lastDay: null,
  unitCost: null,
  namesOnInvoice: false,
};
