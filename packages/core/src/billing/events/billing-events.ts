import { formatMoney, type Money, plural, type WordsOf } from '../../ground';

export interface BillingEvents {
  /** By hand: a quantity of a catalogue item. */
  'charge.added': { readonly itemId: string; readonly item: string; readonly quantity: string };
  'charge.approved': { readonly reason: string | null };
  'charge.waived': { readonly reason: string | null };
  'charge.adjusted': { readonly reason: string | null };
  'charge.reopened': { readonly reason: string | null };
  /** What the time of a ticket charges was worked out again, as what it depends on has changed. */
  'ticket.time-rated-anew': { readonly rated: number; readonly kept: number };
  'invoice.issued': { readonly number: string };
  'invoice.mailed': { readonly to: string };
  'invoice.delivered': { readonly address: string };
  'invoice.delayed': { readonly address: string; readonly why: string };
  'invoice.not-delivered': { readonly address: string; readonly why: string };
  'invoice.booked-in-ledger': { readonly ledgerId: string };
  'invoice.paid': { readonly amount: Money; readonly receipt: number };
}

const own = (seen: 'own' | 'ticket', what: string, reason: string | null) => (seen === 'own' ? { what, detail: reason } : null);

export const billingWords: WordsOf<BillingEvents> = {
  'charge.added': ({ quantity, item }, seen) => `${seen === 'own' ? 'added' : 'charged'} ${quantity} × ${item}`,
  'charge.approved': ({ reason }, seen) => own(seen, 'approved', reason),
  'charge.waived': ({ reason }, seen) => own(seen, 'waived', reason),
  'charge.adjusted': ({ reason }, seen) => own(seen, 'adjusted', reason),
  'charge.reopened': ({ reason }, seen) => own(seen, 'took the decision back', reason),
  'ticket.time-rated-anew': ({ rated, kept }) => `${plural(rated, 'entry', 'entries')} rated anew, ${kept} kept as decided`,
  'invoice.issued': ({ number }) => `issued ${number}`,
  'invoice.mailed': ({ to }) => `mailed to ${to}`,
  'invoice.delivered': ({ address }) => `delivered: ${address}`,
  'invoice.delayed': ({ address, why }) => `delayed: ${address}: ${why}`,
  'invoice.not-delivered': ({ address, why }) => `not delivered: ${address}: ${why}`,
  'invoice.booked-in-ledger': ({ ledgerId }) => ({ what: 'booked in the ledger', detail: ledgerId }),
  'invoice.paid': ({ amount }) => `${formatMoney(amount)} paid`,
};
