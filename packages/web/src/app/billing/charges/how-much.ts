import { sayQuantity, type ChargeUnit } from '@core/billing';
import { formatUnitPrice, type Currency } from '@core/ground';

/** How much of what at which price: "1 h 30 at €93.60" an hour, or "2 × €45.00". */
export function howMuch(
  line: { readonly unit: ChargeUnit; readonly quantity: string; readonly unitPrice: string },
  currency: Currency,
): string {
  return `${sayQuantity(line.quantity, line.unit)} ${line.unit === 'MIN' ? 'at' : '×'} ${formatUnitPrice(line.unitPrice, currency)}`;
}
