import {
  allowsDecision,
  CHARGE_DECISIONS,
  chargeAmount,
  STATE_AFTER,
  taxOfCharge,
  type ChargeDecision,
  type ChargeState,
} from '@core/charges';
import { netUnitPrice } from '@core/catalogue';
import { isRefusal, refuse, type Outcome } from '@core/outcome';
import { dateOf } from '@core/time';
import { at } from '../app/database';
import { changeRow } from '../app/change-row';
import { plainDecimal } from '../app/plain-decimal';
import type { Work } from '../app/work';
import type { HouseBook } from '../house/house-book';

type Done = Outcome<{ id: string; version: number }>;

export interface Decision {
  readonly decision: ChargeDecision;
  readonly reason: string | null;
  readonly quantity: string | null;
  readonly unitPrice: string | null;
}

/** Decides on a charge; who decided what and why is kept for ever. */
export async function decideCharge(
  work: Work,
  chargeId: string,
  version: number,
  { decision, reason, quantity, unitPrice }: Decision,
): Promise<Done> {
  const charge = await work.tx('charge').where({ id: chargeId }).forUpdate().first();
  if (!charge) return refuse('not-found', 'There is no such charge.');
  const state = charge.state as ChargeState;
  if (!allowsDecision(state, decision))
    return refuse(
      'not-possible-now',
      `A charge that is ${state} takes ${CHARGE_DECISIONS[state].join(', ') || 'no decision: correct it by a credit note'}.`,
    );
  const set: Record<string, unknown> = { state: STATE_AFTER[decision] };
  if (decision === 'adjust') {
    const [q, price] = [quantity ?? plainDecimal(charge.quantity), unitPrice ?? plainDecimal(charge.unit_price)];
    const { net, explanation } = chargeAmount(q, charge.unit, price, charge.currency);
    Object.assign(set, {
      quantity: q,
      unit_price: price,
      net_minor: net.minor,
      explanation: JSON.stringify([...charge.explanation, { rule: `adjusted by ${work.actor.name}: ${reason}` }, ...explanation]),
    });
  }
  const changed = await changeRow(work, { table: 'charge', id: chargeId, version, set });
  if (isRefusal(changed)) return changed;
  await work.tx('charge_decision').insert({
    charge_id: chargeId,
    at: at(work.now),
    person_id: work.actor.personId,
    decision,
    reason,
    was: JSON.stringify({ state, quantity: charge.quantity, unitPrice: charge.unit_price, netMinor: charge.net_minor }),
  });
  await work.tell({
    subject: 'charge',
    id: chargeId,
    what: { approve: 'approved', waive: 'waived', adjust: 'adjusted', reopen: 'took the decision back' }[decision],
    detail: reason,
  });
  if (charge.ticket_id) await work.emit('ticket', charge.ticket_id);
  return changed;
}

/** Charges a catalogue item on a ticket at its net price. */
export async function addCharge(
  work: Work,
  book: HouseBook,
  { ticketId, itemId, quantity }: { ticketId: string; itemId: string; quantity: string },
): Promise<Done> {
  const ticket = await work
    .tx('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .where('t.id', ticketId)
    .first('t.division_id', 't.client_id', 'c.tax_exempt');
  if (!ticket?.client_id) return refuse('not-possible-now', 'Say whose ticket this is first: a charge needs a client.');
  const item = await work.tx('catalogue_item').where({ id: itemId }).first();
  if (!item) return refuse('invalid', 'There is no such catalogue item.', { itemId: 'choose one of the catalogue' });
  const itemTax = { category: item.tax_category, percent: plainDecimal(item.tax_percent) };
  const price = netUnitPrice({ price: plainDecimal(item.price), basis: item.basis }, itemTax);
  const { net, explanation } = chargeAmount(quantity, 'C62', price, item.currency);
  const tax = taxOfCharge(itemTax, ticket.tax_exempt);
  const [row] = await work
    .tx('charge')
    .insert({
      division_id: ticket.division_id,
      client_id: ticket.client_id,
      ticket_id: ticketId,
      item_id: itemId,
      kind: 'product',
      on_date: dateOf(work.now, book.house.zone),
      description: item.name,
      quantity,
      unit: 'C62',
      unit_price: price,
      net_minor: net.minor,
      currency: item.currency,
      tax_category: tax.category,
      tax_percent: tax.percent,
      explanation: JSON.stringify([
        { rule: `catalogue price of ${item.number}, ${item.basis}`, figure: { unit: 'text', value: plainDecimal(item.price) } },
        ...explanation,
      ]),
    })
    .returning(['id', 'version']);
  await work.tell({ subject: 'charge', id: row.id, what: `added ${quantity} × ${item.name}` });
  await work.tell({ subject: 'ticket', id: ticketId, what: `charged ${quantity} × ${item.name}` });
  return row;
}
