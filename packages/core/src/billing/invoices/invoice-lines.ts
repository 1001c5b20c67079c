import type { Tax } from '../../goods';
import type { ChargeUnit } from '../charges';
import { type DecimalText, majorOf, type Money, money } from '../../ground';
import type { DocumentKind, InvoiceLine } from './invoice';

export interface ChargeToInvoice {
  readonly id: string;
  readonly description: string;
  readonly details: string | null;
  readonly quantity: DecimalText;
  readonly unit: ChargeUnit;
  readonly unitPrice: DecimalText;
  readonly net: Money;
  /** What documents have not billed of it yet. */
  readonly open: Money;
  readonly tax: Tax;
}

/** What charges make together: an invoice, or a credit note of what they give back. */
export function documentKindOf(charges: readonly ChargeToInvoice[]): DocumentKind {
  return charges.reduce((sum, charge) => sum + charge.open.minor, 0) < 0 ? 'credit note' : 'invoice';
}

/**
 * One line a charge, in the order given, for what is open of it. Amounts are the charges' own and are never computed again;
 * a charge that is billed in part already makes one piece of the rest. On a credit note all is turned round.
 */
export function invoiceLines(charges: readonly ChargeToInvoice[], kind: DocumentKind): InvoiceLine[] {
  const sign = kind === 'credit note' ? -1 : 1;
  return charges.map(({ open, ...charge }, index) => ({
    position: index + 1,
    description: charge.description,
    details: charge.details,
    ...(open.minor === charge.net.minor ? turned(charge, sign) : pieceOf(turn(open, sign))),
    net: turn(open, sign),
    tax: charge.tax,
    links: [{ chargeId: charge.id, does: 'bill', net: open }],
    corrects: null,
  }));
}

type HowMuch = Pick<InvoiceLine, 'quantity' | 'unit' | 'unitPrice'>;

/** One piece of an amount; its price is never below nothing. Source: EN 16931, BR-27. */
export function pieceOf(net: Money): HowMuch {
  return { quantity: net.minor < 0 ? '-1' : '1', unit: 'C62', unitPrice: majorOf({ ...net, minor: Math.abs(net.minor) }).toFixed() };
}

function turned({ quantity, unit, unitPrice }: HowMuch, sign: 1 | -1): HowMuch {
  return { quantity: sign === 1 ? quantity : negated(quantity), unit, unitPrice };
}

const negated = (quantity: DecimalText) => (quantity.startsWith('-') ? quantity.slice(1) : `-${quantity}`);
const turn = (amount: Money, sign: 1 | -1) => money(sign * amount.minor + 0, amount.currency);
