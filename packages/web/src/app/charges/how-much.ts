import { formatUnitPrice, type Currency } from '@core/money';
import { formatMinutes } from '@core/time';

/** How much of what at which price: "1 h 30 at €93.60" an hour, or "2 × €45.00". */
export function howMuch(
  line: { readonly unit: string; readonly quantity: string; readonly unitPrice: string },
  currency: Currency,
): string {
  const price = formatUnitPrice(line.unitPrice, currency);
  return line.unit === 'MIN' ? `${formatMinutes(Number(line.quantity))} at ${price}` : `${line.quantity} × ${price}`;
}
