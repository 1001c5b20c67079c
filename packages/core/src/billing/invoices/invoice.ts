import type { Tax } from '../../goods';
import type { BillingLink, ChargeUnit } from '../charges';
import type { Currency, DecimalText, LocalDate, Money } from '../../ground';

/** Documents of accounts. A receipt is given over a counter. */
export const DOCUMENT_KINDS = ['invoice', 'credit note'] as const;
export type DocumentKind = (typeof DOCUMENT_KINDS)[number];
/** As they stand on documents and in mails. */
export const DOCUMENT_NAMES: Readonly<Record<DocumentKind, string>> = { invoice: 'Invoice', 'credit note': 'Credit note' };

export interface InvoiceLine {
  readonly position: number;
  readonly description: string;
  /** What stands small beneath it. */
  readonly details: string | null;
  readonly quantity: DecimalText;
  /** UN/ECE Recommendation 20: MIN minutes, priced by the hour; C62 pieces, priced each. */
  readonly unit: ChargeUnit;
  readonly unitPrice: DecimalText;
  readonly net: Money;
  readonly tax: Tax;
  readonly links: readonly BillingLink[];
  /** Of a credit note: the position on the invoice that it corrects. */
  readonly corrects: number | null;
}

/** One tax category and rate with the sum of its lines. */
export interface TaxGroup {
  readonly tax: Tax;
  readonly base: Money;
  readonly amount: Money;
}

export interface InvoiceTotals {
  readonly net: Money;
  readonly tax: Money;
  readonly gross: Money;
  readonly groups: readonly TaxGroup[];
}

export interface Party {
  readonly name: string;
  readonly street: string;
  readonly city: string;
  readonly postcode: string;
  /** ISO 3166-1 alpha-2. */
  readonly country: string;
  readonly taxNumber: string | null;
  readonly email: string;
  readonly phone: string;
}

/** The provider as it stands on its documents. */
export interface Seller extends Party {
  /** IBAN that clients pay to. */
  readonly account: string;
  /** What clients know its division as, where that is not its name. EN 16931, BT-28. */
  readonly tradingName?: string | null;
}

/** The name that stands large on a document and under its mail. */
export function shownName({ name, tradingName }: Seller): string {
  return tradingName ?? name;
}

/** A document as it was issued; the amounts of a credit note are what it gives. */
export interface IssuedInvoice {
  readonly kind: DocumentKind;
  readonly number: string;
  /** The invoice that a credit note corrects, and why. */
  readonly corrects: { readonly number: string; readonly issuedOn: LocalDate; readonly reason: string } | null;
  readonly issuedOn: LocalDate;
  readonly dueOn: LocalDate;
  readonly currency: Currency;
  readonly seller: Seller;
  readonly buyer: Party;
  /** What it is for where the client gets several: a contract or a site. */
  readonly billedFor: string | null;
  /** The client's own order. EN 16931, BT-13. */
  readonly purchaseOrder: string | null;
  readonly lines: readonly InvoiceLine[];
  readonly totals: InvoiceTotals;
}
