import { chargeRoutes, type ChargeWire } from '@core/billing';
import { refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import { chargeItem } from './charge-item';
import { decideCharge } from './decide-charge';
import { shareEntry } from './share-entry';

const MOST = 500;

export function bindCharges(app: App) {
  return bindRoutes(app, chargeRoutes, {
    listCharges: async ({ db, query }) => ({
      charges: await readCharges(db, (q) => {
        if (query.state) q.where('ch.state', query.state);
        if (query.clientId) q.where('ch.client_id', query.clientId);
      }),
    }),
    getCharge: async ({ db, params }) =>
      (await readCharges(db, (q) => void q.where('ch.id', params.chargeId)))[0] ?? refuse('not-found', 'There is no such charge.'),
    addCharge: ({ work, body }) => chargeItem(work, app.house, body),
    shareEntry: ({ work, params, body }) => shareEntry(work, app.house, params.entryId, body),
    decideCharge: ({ work, params, version, body }) =>
      decideCharge(work, params.chargeId, version, {
        decision: body.decision,
        reason: body.reason,
        quantity: body.quantity ?? null,
        unitPrice: body.unitPrice ?? null,
      }),
  });
}

async function readCharges(db: Db, narrow: (q: { where(column: string, value: string): unknown }) => void): Promise<ChargeWire[]> {
  const query = db('charge as ch')
    .join('client as c', 'c.id', 'ch.client_id')
    .leftJoin('ticket as t', 't.id', 'ch.ticket_id')
    .leftJoin('person as p', 'p.id', 'ch.person_id')
    .leftJoin('invoice as i', 'i.id', 'ch.invoice_id')
    .joinRaw(
      `left join lateral (select d.reason, dp.name from charge_decision d join person dp on dp.id = d.person_id where d.charge_id = ch.id order by d.id desc limit 1) dec on true`,
    );
  narrow(query as never);
  const rows = await query
    .orderBy(['c.name', 'ch.on_date', 't.number', 'ch.part', 'ch.id'])
    .limit(MOST)
    .select(
      'ch.*',
      'c.name as client',
      't.number',
      'p.name as person',
      'i.number as invoice_number',
      'dec.reason',
      'dec.name as decided_by',
    );
  return rows.map((r) => ({
    id: r.id,
    version: r.version,
    kind: r.kind,
    state: r.state,
    clientId: r.client_id,
    client: r.client,
    ticketId: r.ticket_id,
    ticketNumber: r.number,
    person: r.person,
    on: r.on_date,
    description: r.description,
    quantity: plainDecimal(r.quantity),
    unit: r.unit,
    unitPrice: plainDecimal(r.unit_price),
    net: { minor: r.net_minor, currency: r.currency },
    taxPercent: plainDecimal(r.tax_percent),
    odd: r.odd,
    decidedBy: r.decided_by,
    reason: r.reason,
    why: r.explanation,
    invoiceId: r.invoice_id,
    invoiceNumber: r.invoice_number,
  }));
}
