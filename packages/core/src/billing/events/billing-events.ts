import { type BillingTerms, type OwnTerms, sayTerms } from '../billing-terms';
import { formatMoney, type Id, type LocalDate, type Money, plural, type WordsOf } from '../../ground';

export interface BillingEvents {
  /** By hand: a quantity of a catalogue item. */
  'charge.added': { readonly itemId: Id<'catalogue_item'>; readonly item: string; readonly quantity: string };
  'charge.approved': { readonly reason: string | null };
  'charge.waived': { readonly reason: string | null };
  'charge.adjusted': { readonly reason: string | null };
  'charge.reopened': { readonly reason: string | null };
  'charge.held': { readonly reason: string | null };
  'charge.given-back': { readonly reason: string | null };
  /** By somebody of the client, noted by one of us. */
  'charge.asked-about': { readonly by: string; readonly question: string };
  'charge.question-answered': { readonly question: string; readonly answer: string };
  /** When clients are billed and on how many invoices. */
  'client.billing-terms-set': OwnTerms;
  'setup.billing-terms-set': BillingTerms;
  /** From where on somebody is told of a client's open tab; null is never. */
  'client.tab-level-set': { readonly level: Money | null };
  'client.tab-level-reached': { readonly sum: Money; readonly level: Money };
  /** What is odd changes, and what is held comes back, by these. */
  'setup.charge-review-set': { readonly oldDays: number; readonly ratePercent: number };
  'setup.approval-rule-set': { readonly kind: string; readonly client: string | null; readonly afterDays: number | null };
  'setup.approval-rule-taken-away': { readonly kind: string; readonly client: string | null };
  'setup.approval-rule-given-back': { readonly kind: string; readonly client: string | null };
  /** All that waited for a decision was approved at once: of a client, or of all. */
  'charges.approved': { readonly charges: number; readonly net: Money; readonly clientId: Id<'client'> | null };
  'charges.reopened': { readonly charges: number };
  /** What the time of a ticket charges was worked out again, as what it depends on has changed. */
  'ticket.time-rated-anew': { readonly rated: number; readonly kept: number };
  /** By hand, for one contract. */
  'contract.recurring-proposed': { readonly on: LocalDate; readonly charges: number };
  'run.prepared': { readonly on: LocalDate };
  'run.line-held': { readonly line: string; readonly client: string };
  'run.line-released': { readonly line: string; readonly client: string };
  'run.held': { readonly clients: readonly string[] };
  'run.released': { readonly clients: readonly string[] };
  'run.issue-asked': { readonly invoices: number; readonly net: Money };
  'run.put-away': { readonly left: number };
  'invoice.issued': { readonly number: string; readonly kind: 'invoice' | 'credit note' };
  'invoice.mailed': { readonly to: string };
  'invoice.delivered': { readonly address: string };
  'invoice.delayed': { readonly address: string; readonly why: string };
  'invoice.not-delivered': { readonly address: string; readonly why: string };
  'invoice.booked-in-ledger': { readonly ledgerId: string };
  'invoice.reminded': { readonly step: number; readonly to: string };
  'invoice.reminder-not-delivered': { readonly address: string; readonly why: string };
  /** Until a day, or until somebody ends it. */
  'invoice.reminders-paused': { readonly until: LocalDate | null; readonly reason: string };
  'invoice.reminders-resumed': Record<never, never>;
  'client.reminders-paused': { readonly until: LocalDate | null; readonly reason: string };
  'client.reminders-resumed': Record<never, never>;
  /** A payment settled some of an invoice. */
  'invoice.paid': { readonly amount: Money; readonly paymentId: Id<'payment'>; readonly reference: string };
  /** A credit note settled some of an invoice. */
  'invoice.credit-used': { readonly amount: Money; readonly creditNoteId: Id<'invoice'>; readonly number: string };
  /** What a payment or a credit note had settled is owed again. */
  'invoice.settlement-taken-back': { readonly amount: Money; readonly from: string; readonly reason: string };
  /** A credit note was issued for it. */
  'invoice.credited': {
    readonly creditNoteId: Id<'invoice'>;
    readonly number: string;
    readonly gross: Money;
    readonly undoes: boolean;
    readonly reason: string;
  };
  'payment.received': { readonly amount: Money; readonly source: 'ledger' | 'by hand' | 'bank'; readonly reference: string };
  /** It became known whose it is. */
  'payment.client-set': { readonly client: string };
  /** It was no payment of this client after all. */
  'payment.taken-back': { readonly amount: Money; readonly reason: string };
  /** A bank statement was read from a file: lines that are new, and that another had already. */
  'statement.read': { readonly file: string; readonly lines: number; readonly known: number };
  'statement.line-matched': { readonly line: string; readonly client: string; readonly paymentId: Id<'payment'> };
  'statement.match-taken-back': { readonly line: string; readonly client: string };
  'statement.line-left-out': { readonly line: string; readonly reason: string };
  'statement.line-put-back': { readonly line: string };
}

const own = (seen: 'own' | 'ticket', what: string, reason: string | null) => (seen === 'own' ? { what, detail: reason } : null);

const sayPause = ({ until, reason }: { readonly until: LocalDate | null; readonly reason: string }) => ({
  what: until ? `paused reminders until ${until}` : 'paused reminders',
  detail: reason,
});

export const billingWords: WordsOf<BillingEvents> = {
  'charge.added': ({ quantity, item }, seen) => `${seen === 'own' ? 'added' : 'charged'} ${quantity} × ${item}`,
  'charge.approved': ({ reason }, seen) => own(seen, 'approved', reason),
  'charge.waived': ({ reason }, seen) => own(seen, 'waived', reason),
  'charge.adjusted': ({ reason }, seen) => own(seen, 'adjusted', reason),
  'charge.reopened': ({ reason }, seen) => own(seen, 'took the decision back', reason),
  'charge.held': ({ reason }, seen) => own(seen, 'held', reason),
  'charge.given-back': ({ reason }, seen) => own(seen, 'gave back', reason),
  'charge.asked-about': ({ by, question }) => ({ what: `${by} asked about it`, detail: question }),
  'charge.question-answered': ({ question, answer }) => ({ what: `answered ${question}`, detail: answer }),
  'client.billing-terms-set': (own) => ({ what: 'set when they are billed', detail: sayTerms(own) }),
  'setup.billing-terms-set': (terms) => ({ what: 'set when clients are billed', detail: sayTerms(terms) }),
  'client.tab-level-set': ({ level }) =>
    level ? `is told of their open tab from ${formatMoney(level)} on` : 'is told of their open tab no more',
  'client.tab-level-reached': ({ sum, level }) => `their open tab reached ${formatMoney(level)}: ${formatMoney(sum)}`,
  'setup.charge-review-set': ({ oldDays, ratePercent }) => `set charge review: old after ${oldDays} days, a rate odd from ${ratePercent} %`,
  'setup.approval-rule-set': (rule) => `set that ${ruled(rule)} ${byItself(rule.afterDays)}`,
  'setup.approval-rule-taken-away': (rule) => `took away the rule for ${ruled(rule)}`,
  'setup.approval-rule-given-back': (rule) => `gave back the rule for ${ruled(rule)}`,
  'charges.approved': ({ charges, net }) => `approved ${plural(charges, 'charge')} over ${formatMoney(net)}`,
  'charges.reopened': ({ charges }) => `took the approval of ${plural(charges, 'charge')} back`,
  'ticket.time-rated-anew': ({ rated, kept }) => `${plural(rated, 'entry', 'entries')} rated anew, ${kept} kept as decided`,
  'contract.recurring-proposed': ({ on, charges }) => `proposed ${plural(charges, 'charge')} due by ${on}`,
  'run.prepared': ({ on }) => `prepared the run for ${on}`,
  'run.line-held': ({ line, client }) => ({ what: `held a line of ${client}`, detail: line }),
  'run.line-released': ({ line, client }) => ({ what: `put a line of ${client} back`, detail: line }),
  'run.held': ({ clients }) => ({ what: `held ${plural(clients.length, 'invoice')}`, detail: clients.join(', ') }),
  'run.released': ({ clients }) => ({ what: `put ${plural(clients.length, 'invoice')} back`, detail: clients.join(', ') }),
  'run.issue-asked': ({ invoices, net }) => `issued ${plural(invoices, 'invoice')} over ${formatMoney(net)} before tax`,
  'run.put-away': ({ left }) => `ended it with ${plural(left, 'invoice')} not issued`,
  'invoice.issued': ({ number }) => `issued ${number}`,
  'invoice.mailed': ({ to }) => `mailed to ${to}`,
  'invoice.delivered': ({ address }) => `delivered: ${address}`,
  'invoice.delayed': ({ address, why }) => `delayed: ${address}: ${why}`,
  'invoice.not-delivered': ({ address, why }) => `not delivered: ${address}: ${why}`,
  'invoice.booked-in-ledger': ({ ledgerId }) => ({ what: 'booked in the ledger', detail: ledgerId }),
  'invoice.reminded': ({ step, to }) => `sent reminder ${step} to ${to}`,
  'invoice.reminder-not-delivered': ({ address, why }) => `reminder not delivered: ${address}: ${why}`,
  'invoice.reminders-paused': sayPause,
  'invoice.reminders-resumed': () => 'let reminders go on',
  'client.reminders-paused': sayPause,
  'client.reminders-resumed': () => 'let reminders go on',
  'invoice.paid': ({ amount, reference }) => ({ what: `${formatMoney(amount)} paid`, detail: reference }),
  'invoice.credit-used': ({ amount, number }) => `${formatMoney(amount)} settled by credit note ${number}`,
  'invoice.settlement-taken-back': ({ amount, from, reason }) => ({
    what: `${formatMoney(amount)} from ${from} taken back`,
    detail: reason,
  }),
  'invoice.credited': ({ number, gross, undoes, reason }) => ({
    what: `credit note ${number} over ${formatMoney(gross)}, ${undoes ? 'its billing undone' : 'given back for good'}`,
    detail: reason,
  }),
  'payment.received': ({ amount, source, reference }) => ({ what: `${formatMoney(amount)} received, ${source}`, detail: reference }),
  'payment.taken-back': ({ amount, reason }) => ({ what: `took ${formatMoney(amount)} back`, detail: reason }),
  'statement.read': ({ file, lines, known }) => ({ what: `read ${plural(lines, 'new line')}, ${known} known already`, detail: file }),
  'statement.line-matched': ({ line, client }) => ({ what: `matched a line with ${client}`, detail: line }),
  'statement.match-taken-back': ({ line, client }) => ({ what: `took the match with ${client} back`, detail: line }),
  'statement.line-left-out': ({ line, reason }) => ({ what: `left a line out: ${reason}`, detail: line }),
  'statement.line-put-back': ({ line }) => ({ what: 'put a line back', detail: line }),
  'payment.client-set': ({ client }) => `is from ${client}`,
};

const ruled = ({ kind, client }: { readonly kind: string; readonly client: string | null }) =>
  `${kind} charges${client ? ` of ${client}` : ''}`;

function byItself(afterDays: number | null): string {
  if (afterDays === null) return 'wait for a person';
  return `are approved by themselves ${afterDays === 0 ? 'at once' : `after ${plural(afterDays, 'day')}`}`;
}
