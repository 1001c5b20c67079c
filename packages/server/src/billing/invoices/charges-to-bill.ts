import type { ChargeToInvoice } from '@core/billing';
import type { Id } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import { PLACE, TO_BILL } from '../charges/charges-read-model';
import { chargeFigures } from '../charges/charge-figures';

/** The charges of a client that wait for an invoice, in the order of its lines; `only` narrows to some. */
export async function chargesToBill(db: Db, clientId: Id<'client'>, only: readonly string[] | null = null): Promise<ChargeToInvoice[]> {
  const rows: Row<'charge'>[] = await db('charge as ch')
    .whereRaw(TO_BILL)
    .where({ client_id: clientId })
    .modify((q) => only && void q.whereIn('ch.id', [...only]))
    .orderByRaw(`on_date, ticket_id, ${PLACE}, ch.id`)
    .select('ch.*');
  return rows.map(chargeToInvoice);
}

export function chargeToInvoice(r: Row<'charge'>): ChargeToInvoice {
  return {
    ...chargeFigures(r),
    details: r.details,
    tax: { category: r.tax_category, percent: plainDecimal(r.tax_percent) },
  };
}
