import { money, type Money } from '../../ground';
import type { DocumentKind } from '../invoices';

export type PaymentState =
  | { readonly is: 'open'; readonly left: Money }
  | { readonly is: 'overdue'; readonly left: Money; readonly days: number }
  | { readonly is: 'part paid'; readonly left: Money }
  | { readonly is: 'paid' }
  /** A credit note of which something may still be used, or nothing. */
  | { readonly is: 'credit left'; readonly left: Money }
  | { readonly is: 'credit used' };

export interface Settled {
  readonly kind: DocumentKind;
  readonly gross: Money;
  /** What payments and credit notes settled of it; of a credit note, what was used of it. */
  readonly settled: Money;
  /** Whole days since it was due; below nothing before. */
  readonly daysAfterDue: number;
}

/** Where a document stands, from what it comes to and what was settled of it. Settling more than all leaves it paid. */
export function paymentState({ kind, gross, settled, daysAfterDue }: Settled): PaymentState {
  const left = money(gross.minor - settled.minor, gross.currency);
  if (kind === 'credit note') return left.minor <= 0 ? { is: 'credit used' } : { is: 'credit left', left };
  if (left.minor <= 0) return { is: 'paid' };
  if (daysAfterDue > 0) return { is: 'overdue', left, days: daysAfterDue };
  return settled.minor > 0 ? { is: 'part paid', left } : { is: 'open', left };
}
