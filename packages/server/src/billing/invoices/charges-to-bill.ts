import { type ChargeToInvoice, openOf } from '@core/billing';
import { money } from '@core/ground';
import type { Columns, Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import { PLACE, TO_BILL } from '../charges/charges-read-model';
import { toStand } from '../charges/decide-charge';

/** The charges of a client that wait for an invoice, in the order of its lines; `only` narrows to some. */
export async function chargesToBill(db: Db, clientId: string, only: readonly string[] | null = null): Promise<ChargeToInvoice[]> {
  const rows: Columns[] = await db('charge as ch')
    .whereRaw(TO_BILL)
    .where({ client_id: clientId })
    .modify((q) => only && void q.whereIn('ch.id', [...only]))
    .orderByRaw(`on_date, ticket_id, ${PLACE}, ch.id`)
    .select('ch.*');
  return rows.map(chargeToInvoice);
}

export function chargeToInvoice(r: Columns): ChargeToInvoice {
  return {
    id: r['id'],
    description: r['description'],
    quantity: plainDecimal(r['quantity']),
    unit: r['unit'],
    unitPrice: plainDecimal(r['unit_price']),
    net: money(r['net_minor'], r['currency']),
    open: openOf(toStand(r)),
    tax: { category: r['tax_category'], percent: plainDecimal(r['tax_percent']) },
  };
}
