import type { LineForm } from './contracts-wire';

/** What a line is where nobody says otherwise: one always, monthly with the calendar, in advance, by the day. */
export const USUAL_LINE: Omit<LineForm, 'name' | 'price' | 'startsOn'> = {
  counted: 'flat',
  priced: 'one price',
  tiers: [],
  frequency: 'monthly',
  anchored: 'the calendar',
  paid: 'in advance',
  leadDays: null,
  proration: 'daily',
  minimum: null,
  maximum: null,
  lastDay: null,
  unitCost: null,
  namesOnInvoice: false,
};
