import { type KnownFee, looksLikeFee, ownWords, type TicketFeeWire } from '@core/desk';
import type { Id } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { itemForClient, netPriceOf } from '../../goods';

/** The fee of a ticket with what it comes to; where there is none, the one that the job looks like. */
export async function readTicketFee(db: Db, ticketId: Id<'ticket'>): Promise<TicketFeeWire> {
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

async function readHint(db: Db, ticketId: Id<'ticket'>): Promise<TicketFeeWire['hint']> {
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
