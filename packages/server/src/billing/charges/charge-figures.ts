import { type ChargeToInvoice, openOf } from '@core/billing';
import { money } from '@core/ground';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import { toStand } from './decide-charge';

/** What a stored charge is for, how much of it at which price, what that comes to, and what of it is open. */
export function chargeFigures(r: Row<'charge'>): Omit<ChargeToInvoice, 'tax' | 'details'> {
  return {
    id: r.id,
    description: r.description,
    quantity: plainDecimal(r.quantity),
    unit: r.unit,
    unitPrice: plainDecimal(r.unit_price),
    net: money(r.net_minor, r.currency),
    open: openOf(toStand(r)),
  };
}
