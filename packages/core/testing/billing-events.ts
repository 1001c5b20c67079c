import type { LocalDate } from '../src/ground';
import type { EventCase } from './plain-events';

const ID = '00000000-0000-4000-8000-000000000001';

/** As PLAIN_EVENTS, of billing. */
export const PLAIN_BILLING_EVENTS: readonly EventCase[] = [
  ['charge.approved', { reason: null }, 'approved', null],
  ['charge.adjusted', { reason: 'half' }, 'adjusted | half', null],
  ['charge.reopened', { reason: null }, 'took the decision back', null],
  [
    'contract.price-rule-added',
    { what: 'Cable', sets: { is: 'price', price: '9.5', basis: 'net' }, currency: 'EUR' },
    'set a price rule: Cable €9.50 without tax',
  ],
  [
    'contract.price-rule-taken-away',
    { what: null, sets: { is: 'percent off', percent: '10' }, currency: 'EUR' },
    'took a price rule away: everything 10 % off',
  ],
  [
    'contract.price-rule-given-back',
    { what: 'parts', sets: { is: 'never billed' }, currency: 'EUR' },
    'gave a price rule back: parts never billed',
  ],
  [
    'client.price-rule-added',
    { what: 'Cable', sets: { is: 'price', price: '9.5', basis: 'net' }, currency: 'EUR' },
    'set a price rule: Cable €9.50 without tax',
  ],
  [
    'client.price-rule-taken-away',
    { what: null, sets: { is: 'percent off', percent: '10' }, currency: 'EUR' },
    'took a price rule away: everything 10 % off',
  ],
  [
    'client.price-rule-given-back',
    { what: 'parts', sets: { is: 'never billed' }, currency: 'EUR' },
    'gave a price rule back: parts never billed',
  ],
  [
    'setup.price-rule-added',
    { what: 'Cable', sets: { is: 'price', price: '9.5', basis: 'net' }, currency: 'EUR' },
    'set a price rule: Cable €9.50 without tax',
  ],
  [
    'setup.price-rule-taken-away',
    { what: null, sets: { is: 'percent off', percent: '10' }, currency: 'EUR' },
    'took a price rule away: everything 10 % off',
  ],
  [
    'setup.price-rule-given-back',
    { what: 'parts', sets: { is: 'never billed' }, currency: 'EUR' },
    'gave a price rule back: parts never billed',
  ],
  ['charge.held', { reason: 'next month' }, 'held | next month', null],
  ['charge.given-back', { reason: null }, 'gave back', null],
  ['setup.charge-review-set', { oldDays: 45, ratePercent: 25 }, 'set charge review: old after 45 days, a rate odd from 25 %'],
  [
    'setup.approval-rule-set',
    { kind: 'fee', client: 'Hollin', afterDays: 2 },
    'set that fee charges of Hollin are approved by themselves after 2 days',
  ],
  ['setup.approval-rule-set', { kind: 'fee', client: null, afterDays: 0 }, 'set that fee charges are approved by themselves at once'],
  ['setup.approval-rule-set', { kind: 'fee', client: 'Hollin', afterDays: null }, 'set that fee charges of Hollin wait for a person'],
  ['setup.approval-rule-taken-away', { kind: 'fee', client: null }, 'took away the rule for fee charges'],
  ['setup.approval-rule-given-back', { kind: 'fee', client: null }, 'gave back the rule for fee charges'],
  ['charges.reopened', { charges: 1 }, 'took the approval of 1 charge back'],
  ['invoice.reminded', { step: 2, to: 'a@b.example' }, 'sent reminder 2 to a@b.example'],
  ['invoice.reminder-not-delivered', { address: 'a@b.example', why: 'full' }, 'reminder not delivered: a@b.example: full'],
  [
    'invoice.reminders-paused',
    { until: '2026-12-01' as LocalDate, reason: 'they called' },
    'paused reminders until 2026-12-01 | they called',
  ],
  ['invoice.reminders-resumed', {}, 'let reminders go on'],
  ['client.reminders-paused', { until: null, reason: 'they called' }, 'paused reminders | they called'],
  ['client.reminders-resumed', {}, 'let reminders go on'],
  ['payment.taken-back', { amount: { minor: 500, currency: 'EUR' }, reason: 'another client' }, 'took €5.00 back | another client'],
  ['statement.read', { file: 'nov.xml', lines: 1, known: 2 }, 'read 1 new line, 2 known already | nov.xml'],
  ['statement.line-matched', { line: 'Hollin, €5.00', client: 'Hollin', paymentId: ID }, 'matched a line with Hollin | Hollin, €5.00'],
  ['statement.match-taken-back', { line: 'Hollin, €5.00', client: 'Hollin' }, 'took the match with Hollin back | Hollin, €5.00'],
  ['statement.line-left-out', { line: 'Hollin, €5.00', reason: 'fee' }, 'left a line out: fee | Hollin, €5.00'],
  ['statement.line-put-back', { line: 'Hollin, €5.00' }, 'put a line back | Hollin, €5.00'],
  ['run.prepared', { on: '2026-12-01' as LocalDate }, 'prepared the run for 2026-12-01'],
  ['run.line-held', { line: 'Seats', client: 'Hollin' }, 'held a line of Hollin | Seats'],
  ['run.line-released', { line: 'Seats', client: 'Hollin' }, 'put a line of Hollin back | Seats'],
  ['run.held', { clients: ['Hollin', 'Vantry'] }, 'held 2 invoices | Hollin, Vantry'],
  ['run.released', { clients: ['Hollin'] }, 'put 1 invoice back | Hollin'],
  ['run.issue-asked', { invoices: 9, net: { minor: 500, currency: 'EUR' } }, 'issued 9 invoices over €5.00 before tax'],
  ['run.put-away', { left: 1 }, 'ended it with 1 invoice not issued'],
  ['invoice.issued', { number: 'PH-01221', kind: 'invoice' }, 'issued PH-01221'],
  [
    'invoice.credit-used',
    { amount: { minor: 500, currency: 'EUR' }, creditNoteId: ID, number: 'PHC-00041' },
    '€5.00 settled by credit note PHC-00041',
  ],
  [
    'invoice.settlement-taken-back',
    { amount: { minor: 500, currency: 'EUR' }, from: 'PHC-00041', reason: 'wrong one' },
    '€5.00 from PHC-00041 taken back | wrong one',
  ],
  [
    'payment.received',
    { amount: { minor: 500, currency: 'EUR' }, source: 'by hand', reference: 'cheque 12' },
    '€5.00 received, by hand | cheque 12',
  ],
  ['payment.client-set', { client: 'Hollin' }, 'is from Hollin'],
  ['invoice.mailed', { to: 'a@hollin.example' }, 'mailed to a@hollin.example'],
  ['invoice.delivered', { address: 'a@hollin.example' }, 'delivered: a@hollin.example'],
  ['invoice.delayed', { address: 'a@hollin.example', why: 'busy' }, 'delayed: a@hollin.example: busy'],
  ['invoice.booked-in-ledger', { ledgerId: 'L7' }, 'booked in the ledger | L7'],
  ['contract.recurring-proposed', { on: '2026-12-01' as LocalDate, charges: 2 }, 'proposed 2 charges due by 2026-12-01'],
];
