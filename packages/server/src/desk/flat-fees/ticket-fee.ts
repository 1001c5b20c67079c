import { type FeeState, isEnded } from '@core/desk';
import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { changeKind } from '../tickets/change-kind';

export interface FeeChoice {
  readonly feeId: Id<'flat_fee'>;
  readonly quantity: number;
}

/**
 * Makes a ticket a flat-fee job. The fee is charged once; another choice or quantity replaces it. Where the
 * client must agree, nothing is charged until they do.
 */
export async function setFee(
  work: Work,
  book: HouseBook,
  { ticketId, choice }: { readonly ticketId: Id<'ticket'>; readonly choice: FeeChoice },
): Promise<Outcome<{ id: Id<'ticket'>; state: FeeState }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).forUpdate().first('kind', 'status', 'number', 'is_umbrella');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (ticket.is_umbrella) return refuse('not-possible-now', 'An umbrella is no flat-fee job; its members may be.');
  if (isEnded(ticket.status)) return refuse('not-possible-now', `Ticket ${ticket.number} is ${ticket.status}; reopen it first.`);
  const fee = await work.tx('flat_fee').where({ id: choice.feeId }).whereNull('archived_at').first();
  if (!fee) return refuse('invalid', 'There is no such flat fee.', { feeId: 'choose one of the fees' });
  const before = await work.tx('ticket_fee').where({ ticket_id: ticketId }).first('charge_id');
  const state: FeeState = fee.asks_client ? 'asked' : 'agreed';
  const set = { fee_id: fee.id, quantity: choice.quantity, state, charge_id: null, set_at: at(work.now), set_by: work.actor.personId };
  await work
    .tx('ticket_fee')
    .insert({ ticket_id: ticketId, ...set })
    .onConflict('ticket_id')
    .merge({ ...set, result: null, note: null });
  if (ticket.kind !== 'unsorted' && ticket.kind !== 'flat-fee job') {
    const changed = await changeKind(work, book, { ticketId, version: undefined, kind: 'flat-fee job' });
    if (isRefusal(changed)) return changed;
  }
  await work.tell('ticket.fee-set', ticketId, {
    feeId: choice.feeId,
    fee: fee.name,
    quantity: choice.quantity,
    asked: state === 'asked',
    insteadOfChargeId: before?.charge_id ?? null,
  });
  return { id: ticketId, state };
}

/** Takes the fee off; the ticket is a service request again, and its time is charged as such. */
export async function removeFee(
  work: Work,
  book: HouseBook,
  { ticketId, reason }: { readonly ticketId: Id<'ticket'>; readonly reason: string },
): Promise<Outcome<{ id: Id<'ticket'> }>> {
  const fee = await work.tx('ticket_fee').where({ ticket_id: ticketId }).first('charge_id');
  if (!fee) return refuse('not-possible-now', 'This ticket has no flat fee.');
  await work.tx('ticket_fee').where({ ticket_id: ticketId }).delete();
  await work.tell('ticket.fee-removed', ticketId, { reason, chargeId: fee.charge_id });
  const { kind } = (await work.tx('ticket').where({ id: ticketId }).first('kind'))!;
  if (kind === 'flat-fee job') {
    const changed = await changeKind(work, book, { ticketId, version: undefined, kind: 'service request' });
    if (isRefusal(changed)) return changed;
  }
  return { id: ticketId };
}

export async function setFeeResult(
  work: Work,
  { ticketId, result, note }: { readonly ticketId: Id<'ticket'>; readonly result: 'success' | 'failed'; readonly note: string | null },
): Promise<Outcome<{ id: Id<'ticket'> }>> {
  const changed = await work.tx('ticket_fee').where({ ticket_id: ticketId }).update({ result, note });
  if (!changed) return refuse('not-possible-now', 'This ticket has no flat fee.');
  await work.tell('ticket.fee-job-ended', ticketId, { result, note });
  return { id: ticketId };
}

export async function dismissFeeHint(work: Work, ticketId: Id<'ticket'>): Promise<Outcome<{ id: Id<'ticket'> }>> {
  const changed = await work
    .tx('ticket')
    .where({ id: ticketId })
    .update({ no_fee_at: at(work.now) });
  if (!changed) return refuse('not-found', 'There is no such ticket.');
  await work.tell('ticket.fee-hint-dismissed', ticketId, {});
  return { id: ticketId };
}
