import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import type { TicketEvents } from '@core/desk';
import type { Work } from '../../app/work';
import { chargeItem } from './charge-item';
import { dropCharges } from './store-charges';
import { tellCharges } from './tell-charges';

/** A flat fee that was set is charged in place of the one before; where the client must agree, once they do. */
export async function chargeFeeThatWasSet(
  work: Work,
  ticketId: Id<'ticket'>,
  { asked, insteadOfChargeId }: TicketEvents['ticket.fee-set'],
): Promise<Outcome<unknown>> {
  const dropped = await dropCharge(work, insteadOfChargeId);
  if (isRefusal(dropped) || asked) return dropped;
  return chargeFee(work, ticketId);
}

export async function chargeFeeThatWasAgreed(
  work: Work,
  ticketId: Id<'ticket'>,
  { agrees }: TicketEvents['ticket.fee-answered'],
): Promise<Outcome<unknown>> {
  return agrees ? chargeFee(work, ticketId) : {};
}

export async function dropFeeThatWasRemoved(
  work: Work,
  _: string,
  { chargeId }: TicketEvents['ticket.fee-removed'],
): Promise<Outcome<unknown>> {
  return dropCharge(work, chargeId);
}

async function chargeFee(work: Work, ticketId: Id<'ticket'>): Promise<Outcome<unknown>> {
  const { item_id, quantity } = await work
    .tx('ticket_fee as x')
    .join('flat_fee as f', 'f.id', 'x.fee_id')
    .where('x.ticket_id', ticketId)
    .first('f.item_id', 'x.quantity');
  const charge = await chargeItem(work, work.book, { ticketId, itemId: item_id, quantity: String(quantity), is: 'fee' });
  if (isRefusal(charge)) return charge;
  await work.tx('ticket_fee').where({ ticket_id: ticketId }).update({ charge_id: charge.id });
  return {};
}

/** What was proposed goes; what was decided on stands in the way. */
async function dropCharge(work: Work, chargeId: Id<'charge'> | null): Promise<Outcome<unknown>> {
  if (!chargeId) return {};
  const charge = await work.tx('charge').where({ id: chargeId }).first('state', 'ticket_id', 'client_id');
  if (!charge || charge.state === 'withdrawn') return {};
  if (charge.state !== 'proposed')
    return refuse('not-possible-now', `Its fee is ${charge.state} already. Take that decision back in charge review first.`);
  await dropCharges(work, [chargeId]);
  await tellCharges(work, [charge]);
  return {};
}
