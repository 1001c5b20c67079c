import { money, type Money } from '../../ground';

export type PaymentState =
  | { readonly is: 'open'; readonly left: Money }
  | { readonly is: 'overdue'; readonly left: Money; readonly days: number }
  | { readonly is: 'part paid'; readonly left: Money }
  | { readonly is: 'paid' };

/** Where an invoice stands, from what was invoiced and what was paid. Overpaying leaves it paid. */
export function paymentState(gross: Money, paid: Money, daysAfterDue: number): PaymentState {
  const left = money(gross.minor - paid.minor, gross.currency);
  if (left.minor <= 0) return { is: 'paid' };
  if (daysAfterDue > 0) return { is: 'overdue', left, days: daysAfterDue };
  return paid.minor > 0 ? { is: 'part paid', left } : { is: 'open', left };
}
