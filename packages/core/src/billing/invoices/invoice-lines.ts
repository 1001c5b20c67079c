import type { Tax } from '../../goods';
import type { ChargeUnit } from '../charges';
import type { DecimalText, Money } from '../../ground';
import type { InvoiceLine } from './invoice';

export interface ChargeToInvoice {
  readonly id: string;
  readonly description: string;
  readonly quantity: DecimalText;
  readonly unit: ChargeUnit;
  readonly unitPrice: DecimalText;
  readonly net: Money;
  readonly tax: Tax;
}

/** One line a charge, in the order given. Amounts are the charges' own and are never computed again. */
export function invoiceLines(charges: readonly ChargeToInvoice[]): InvoiceLine[] {
  return charges.map((charge, index) => ({
    position: index + 1,
    description: charge.description,
    quantity: charge.quantity,
    unit: charge.unit,
    unitPrice: charge.unitPrice,
    net: charge.net,
    tax: charge.tax,
    chargeIds: [charge.id],
  }));
}
