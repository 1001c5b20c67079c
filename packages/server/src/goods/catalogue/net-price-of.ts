import { netUnitPrice, type Tax } from '@core/goods';
import { chargeAmount } from '@core/billing';
import type { DecimalText, Money } from '@core/ground';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';

/** A catalogue row's net unit price, what one comes to, and its own tax. */
export function netPriceOf(item: Row<'catalogue_item', 'tax_category' | 'tax_percent' | 'price' | 'basis' | 'currency'>): {
  price: DecimalText;
  one: Money;
  tax: Tax;
} {
  const tax = { category: item.tax_category, percent: plainDecimal(item.tax_percent) } as Tax;
  const price = netUnitPrice({ price: plainDecimal(item.price), basis: item.basis }, tax);
  return { price, one: chargeAmount({ quantity: '1', unit: 'C62', unitPrice: price, currency: item.currency }).net, tax };
}
