import { type RunLine, type ChargeToInvoice, openOf } from '@core/billing';
import type { Id } from '@core/ground';
import { type Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';
import { CLEARED, PLACE } from '../charges/charges-read-model';
import { toStand } from '../charges/decide-charge';
import { chargeToInvoice } from '../invoices/charges-to-bill';

export type RunOf = Row<'billing_run', 'id' | 'on_date'>;
export type ChargeOfRun = Row<'charge'> & { readonly line: string | null; readonly held: boolean };

/** What recurs and nobody decided on yet is approved by issuing it. What is held until the run's day or before is due again. */
const DUE = `(ch.held_until is null or ch.held_until <= :on) and (${CLEARED} and (ch.cause = 'recurring' or ch.on_date <= :on) or ch.cause = 'recurring' and ch.standing = 'proposed')`;

/** What is due of a client in a run, in the order of its invoice; what is held is marked. */
export function chargesOfRun(db: Db, run: RunOf, clientId: Id<'client'>): Promise<ChargeOfRun[]> {
  return db('charge as ch')
    .leftJoin('contract_line as cl', 'cl.id', 'ch.contract_line_id')
    .leftJoin('billing_run_held as h', (on) => on.on('h.charge_id', 'ch.id').andOn('h.run_id', db.raw('?', [run.id])))
    .where('ch.client_id', clientId)
    .whereRaw(DUE, { on: run.on_date })
    .orderByRaw(`ch.on_date, ch.ticket_id, ${PLACE}, ch.id`)
    .select('ch.*', 'cl.name as line', db.raw('h.charge_id is not null as held')) as unknown as Promise<ChargeOfRun[]>;
}

export function toIssue(charges: readonly ChargeOfRun[]): ChargeToInvoice[] {
  return charges.filter((c) => !c.held).map(chargeToInvoice);
}

export function runLine(c: ChargeOfRun): RunLine {
  return {
    kind: c.kind,
    recurs: c.contract_line_id === null ? null : { lineId: c.contract_line_id, line: c.line ?? '', isTrueUp: c.odd.includes('true-up') },
    quantity: plainDecimal(c.quantity),
    unit: c.unit,
    unitPrice: plainDecimal(c.unit_price),
    net: openOf(toStand(c)),
  };
}
