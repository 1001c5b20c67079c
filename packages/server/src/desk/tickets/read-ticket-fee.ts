import type { Knex } from 'knex';
import { type FeeHint, type KnownFee, looksLikeFee, ownWords, type TicketFeeWire } from '@core/desk';
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
    .first(
      'x.*',
      'f.name',
      'f.item_id',
      't.client_id',
      'c.standing as charge_state',
      'c.net_minor',
      db.raw('(x.set_at at time zone (select zone from provider))::date as set_on'),
    );
  if (!row) return { fee: null, hint: (await readHint(db, ticketId)) ?? null };
  const { one } = netPriceOf(
    (await itemForClient(db, { itemId: row.item_id, clientId: row.client_id, quantity: String(row.quantity), on: row.set_on }))!,
  );
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
  return (await readFeeHints(db, (q) => void q.where('t.id', ticketId)))[0]?.hint ?? null;
}

type JobRow = Row<'ticket', 'id' | 'number' | 'subject' | 'client_id' | 'category_id' | 'received_at' | 'resolved_at'> & {
  readonly client: string | null;
  readonly new_person: boolean;
  readonly new_asset: boolean;
  readonly first_text: string | null;
};

/** Tickets that look like a job with a flat fee, where nobody said that they are none; which of all is said by who asks. */
export async function readFeeHints(
  db: Db,
  narrow: (tickets: Knex.QueryBuilder) => void,
): Promise<{ readonly ticket: JobRow; readonly hint: FeeHint }[]> {
  const fees = (await db('flat_fee').whereNull('archived_at').orderBy('position')).map(knownFee);
  if (!fees.length) return [];
  const tickets: JobRow[] = await db('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .leftJoin('asset as a', 'a.id', 't.asset_id')
    .joinRaw(
      `left join lateral (select m.text from message m where m.ticket_id = t.id and m.direction = 'in' order by m.at limit 1) m on true`,
    )
    .modify(narrow)
    .whereNull('t.no_fee_at')
    .where('t.is_umbrella', false)
    .whereNotIn('t.kind', ['internal', 'alert'])
    .select(
      ...['id', 'number', 'subject', 'client_id', 'category_id', 'received_at', 'resolved_at'].map((x) => `t.${x}`),
      'c.name as client',
      'm.text as first_text',
      db.raw('coalesce(k.since >= t.received_at, false) as new_person'),
      db.raw('coalesce(a.since >= t.received_at, false) as new_asset'),
    );
  return tickets.flatMap((ticket) => {
    const hint = looksLikeFee(fees, {
      categoryId: ticket.category_id,
      text: `${ticket.subject}\n${ownWords(ticket.first_text ?? '')}`,
      newPerson: ticket.new_person,
      newAsset: ticket.new_asset,
    });
    return hint ? [{ ticket, hint }] : [];
  });
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
