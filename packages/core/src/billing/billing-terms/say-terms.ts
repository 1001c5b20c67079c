import { plural } from '../../ground';
import type { BillingRhythm, InvoicePer, OwnTerms } from './billing-terms';
import type { InvoicePart } from './invoice-part';

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const MONTHS = 'January,February,March,April,May,June,July,August,September,October,November,December'.split(',');
const IN_QUARTER = ['first', 'second', 'third'];

/** When a client is billed, in words: "each month on the last day". */
export function sayRhythm({ every, weekday, day, month }: BillingRhythm): string {
  switch (every) {
    case 'run':
      return 'with every run';
    case 'week':
      return `each week on ${WEEKDAYS[weekday! - 1]}`;
    case 'month':
      return `each month on ${sayDayOf(day!)}`;
    case 'quarter':
      return `each quarter on ${sayDayOf(day!)} of its ${IN_QUARTER[month! - 1]} month`;
    case 'year':
      return `each year on ${day} ${MONTHS[month! - 1]}`;
  }
}

const sayDayOf = (day: number) => (day === 31 ? 'the last day' : `day ${day}`);

const PER_WORDS: Readonly<Record<InvoicePer, string>> = {
  client: 'on one invoice',
  contract: 'on an invoice for each contract',
  site: 'on an invoice for each site',
  'purchase order': 'on an invoice for each purchase order',
};
export const sayPer = (per: InvoicePer): string => PER_WORDS[per];

const NO_PART: Readonly<Record<InvoicePer, string>> = {
  client: '',
  contract: 'no contract',
  site: 'no site',
  'purchase order': 'no purchase order',
};
/** What an invoice of several is for; nothing where there is one. */
export function sayPart({ per, name }: Pick<InvoicePart, 'per' | 'name'>): string {
  return name === null ? NO_PART[per] : per === 'purchase order' ? `order ${name}` : name;
}

/** Terms in words; what a client has no own of is as the house does. */
export function sayTerms({ rhythm, per, leadDays }: OwnTerms): string {
  const own = [
    rhythm && sayRhythm(rhythm),
    per && sayPer(per),
    leadDays !== null && `what is paid in advance ${plural(leadDays, 'day')} before it begins`,
  ].filter(Boolean);
  return own.length ? own.join(', ') : 'as the house does';
}
