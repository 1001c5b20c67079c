import { type FeeState, isEnded, type KnownFee, looksLikeFee, ownWords, type TicketFeeWire } from '@core/desk';
import { isRefusal, refuse, type Outcome } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { itemForClient } from '../../goods/catalogue/item-for-client';
import { netPriceOf } from '../../goods/catalogue/net-price-of';
import type { HouseBook } from '../../house/house/house-book';
import { changeKind } from '../intake/change-kind';

export interface FeeChoice {
  readonly feeId: string;
  readonly quantity: number;
}

/** The fee of a ticket with what it comes to; where there is none, the one that the job looks like. */
export async function readTicketFee(db: Db, ticketId: string): Promise<TicketFeeWire> {
  const row = await db('ticket_fee as x')
    .join('flat_fee as f', 'f.id', 'x.fee_id')
    .join('ticket as t', 't.id', 'x.ticket_id')
    .leftJoin('charge as c', 'c.id', 'x.charge_id')
    .where('x.ticket_id', ticketId)
    .first('x.*', 'f.name', 'f.item_id', 't.client_id', 'c.standing as charge_state', 'c.net_minor');
  if (!row) return { fee: null, hint: (await readHint(db, ticketId)) ?? null };
  const { one } = netPriceOf((await itemForClient(db, row.item_id, row.client_id))!);
  return {
    fee: {
      feeId: row.fee_id,
      name: row.name,
      quantity: row.quantity,
      state: row.state,
      net: { minor: row.net_minor ?? one.minor * row.quantity, currency: one.currency },
      chargeState: row.charge_state,
      result: row.result,
      note: row.note,
    },
    hint: null,
  };
}

async function readHint(db: Db, ticketId: string): Promise<TicketFeeWire['hint']> {
  const t = await db('ticket as t')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .leftJoin('asset as a', 'a.id', 't.asset_id')
    .where('t.id', ticketId)
    .first(
      't.subject',
      't.kind',
      't.category_id',
      't.no_fee_at',
      't.is_umbrella',
      db.raw('coalesce(k.since >= t.received_at, false) as new_person'),
      db.raw('coalesce(a.since >= t.received_at, false) as new_asset'),
    );
  if (!t || t.no_fee_at !== null || t.is_umbrella || t.kind === 'internal' || t.kind === 'alert') return null;
  const fees = await db('flat_fee').whereNull('archived_at').orderBy('position');
  if (!fees.length) return null;
  const first = await db('message').where({ ticket_id: ticketId, direction: 'in' }).orderBy('at').first('text');
  return (
    looksLikeFee(fees.map(knownFee), {
      categoryId: t.category_id,
      text: `${t.subject}\n${ownWords(first?.text ?? '')}`,
      newPerson: t.new_person,
      newAsset: t.new_asset,
    }) ?? null
  );
}

function knownFee(row: Row<'flat_fee', 'id' | 'name' | 'category_id' | 'words' | 'for_new_person' | 'for_new_asset'>): KnownFee {
  return {
    id: row.id,
    name: row.name,
    categoryId: row.category_id,
    words: row.words,
    forNewPerson: row.for_new_person,
    forNewAsset: row.for_new_asset,
  };
}

/**
 * Makes a ticket a flat-fee job. The fee is charged once; another choice or quantity replaces it. Where the
 * client must agree, nothing is charged until they do.
 */
export async function setFee(
  work: Work,
  book: HouseBook,
  { ticketId, choice }: { readonly ticketId: string; readonly choice: FeeChoice },
): Promise<Outcome<{ id: string; state: FeeState }>> {
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
  { ticketId, reason }: { readonly ticketId: string; readonly reason: string },
): Promise<Outcome<{ id: string }>> {
  const fee = await work.tx('ticket_fee').where({ ticket_id: ticketId }).first('charge_id');
  if (!fee) return refuse('not-possible-now', 'This ticket has no flat fee.');
  await work.tx('ticket_fee').where({ ticket_id: ticketId }).delete();
  await work.tell('ticket.fee-removed', ticketId, { reason, chargeId: fee.charge_id });
  const { kind } = await work.tx('ticket').where({ id: ticketId }).first('kind');
  if (kind === 'flat-fee job') {
    const changed = await changeKind(work, book, { ticketId, version: undefined, kind: 'service request' });
    if (isRefusal(changed)) return changed;
  }
  return { id: ticketId };
}

export async function setFeeResult(
  work: Work,
  { ticketId, result, note }: { readonly ticketId: string; readonly result: 'success' | 'failed'; readonly note: string | null },
): Promise<Outcome<{ id: string }>> {
  const changed = await work.tx('ticket_fee').where({ ticket_id: ticketId }).update({ result, note });
  if (!changed) return refuse('not-possible-now', 'This ticket has no flat fee.');
  await work.tell('ticket.fee-job-ended', ticketId, { result, note });
  return { id: ticketId };
}

export async function dismissFeeHint(work: Work, ticketId: string): Promise<Outcome<{ id: string }>> {
  const changed = await work
    .tx('ticket')
    .where({ id: ticketId })
    .update({ no_fee_at: at(work.now) });
  if (!changed) return refuse('not-found', 'There is no such ticket.');
  await work.tell('ticket.fee-hint-dismissed', ticketId, {});
  return { id: ticketId };
}
