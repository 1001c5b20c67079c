import {
  type RunLine,
  type ChargeToInvoice,
  type InvoicePart,
  type InvoicePer,
  openOf,
  partKey,
  partOf,
  type PlaceOfCharge,
} from '@core/billing';
import type { Id } from '@core/ground';
import { type Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';
import { CLEARED, PLACE } from '../charges/charges-read-model';
import { toStand } from '../charges/decide-charge';
import { chargeToInvoice } from '../invoices/charges-to-bill';
import type { RunClient } from './run-client';

/** Where a charge belongs, as far as the invoices of its client are parted by it. */
interface Placed {
  readonly contract_name?: string;
  readonly purchase_order?: string | null;
  readonly site_id?: Id<'site'> | null;
  readonly site_name?: string;
}
type Stored = Row<'charge'> & Placed & { readonly line: string | null; readonly held: boolean };
export type ChargeOfRun = Stored & { readonly invoicePart: InvoicePart };

/** What recurs and nobody decided on yet is approved by issuing it. What is held until the run's day or before is due again. */
const DUE = `(ch.held_until is null or ch.held_until <= :on) and (${CLEARED} and (ch.cause = 'recurring' or ch.on_date <= :on) or ch.cause = 'recurring' and ch.standing = 'proposed')`;

/** The site of whom or what a charge is for, else of its ticket, else the one that its contract is for. */
const SITE = `coalesce(fc.site_id, ta.site_id, tc.site_id,
  (select min(r.of_what)::uuid from contract_reach r where r.contract_id = ch.contract_id and r.reach = 'site' having count(*) = 1))`;

/** What is due of a client in a run, in the order of its invoices; what is held is marked. */
export async function chargesOfRun(db: Db, of: RunClient): Promise<ChargeOfRun[]> {
  const query = db('charge as ch')
    .leftJoin('contract_line as cl', 'cl.id', 'ch.contract_line_id')
    .leftJoin('billing_run_held as h', (on) => on.on('h.charge_id', 'ch.id').andOn('h.run_id', db.raw('?', [of.runId])))
    .where('ch.client_id', of.clientId)
    .whereRaw(DUE, { on: of.through })
    .orderByRaw(`ch.on_date, ch.ticket_id, ${PLACE}, ch.id`)
    .select('ch.*', 'cl.name as line', db.raw('h.charge_id is not null as held'));
  const stored = (await PLACED[of.per](query, db)) as unknown as Stored[];
  const before = of.isOnce ? await billedBefore(db, of) : new Set<string>();
  return stored.map((c) => ({ ...c, invoicePart: partOf(placeOf(c), of.per) })).filter((c) => !before.has(partKey(c.invoicePart)));
}

type Charges = ReturnType<Db['queryBuilder']>;
const withContract = (q: Charges) => q.leftJoin('contract as k', 'k.id', 'ch.contract_id');

/** What tells the invoices of a client apart is read where they are parted by it, and not else: most get one. */
const PLACED: Readonly<Record<InvoicePer, (q: Charges, db: Db) => Charges>> = {
  client: (q) => q,
  contract: (q) => withContract(q).select('k.name as contract_name'),
  'purchase order': (q) => withContract(q).select('k.purchase_order'),
  site: (q, db) =>
    q
      .leftJoin('contact as fc', 'fc.id', 'ch.for_contact_id')
      .leftJoin('ticket as t', 't.id', 'ch.ticket_id')
      .leftJoin('asset as ta', 'ta.id', 't.asset_id')
      .leftJoin('contact as tc', 'tc.id', 't.contact_id')
      .leftJoin('site as s', (on) => on.on('s.id', db.raw(SITE)).andOn('s.client_id', 'ch.client_id'))
      .select('s.id as site_id', 's.name as site_name'),
};

function placeOf(c: Stored): PlaceOfCharge {
  return {
    contract: c.contract_id && c.contract_name ? { id: c.contract_id, name: c.contract_name } : null,
    site: c.site_id && c.site_name ? { id: c.site_id, name: c.site_name } : null,
    purchaseOrder: c.purchase_order ?? null,
  };
}

/** Which of a client's invoices another run issued as of the same day or a later one: what came late waits for the next. */
async function billedBefore(db: Db, { runId, clientId, through }: RunClient): Promise<Set<string>> {
  const keys: string[] = await db('billing_run_invoice')
    .where({ client_id: clientId, state: 'issued', is_once: true })
    .where('through', '>=', through)
    .whereNot({ run_id: runId })
    .pluck('part_key');
  return new Set(keys);
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
