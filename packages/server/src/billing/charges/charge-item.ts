import { chargeAmount, draftCharges, taxOfCharge } from '@core/billing';
import { dateOf, type Id, type Outcome, refuse, step } from '@core/ground';
import { plainDecimal } from '../../app/plain-decimal';
import type { Work } from '../../app/work';
import { itemForClient, netPriceOf } from '../../goods';
import type { HouseBook } from '../../house';
import { lookAtCharges } from './look-at-charges';
import { type WantedCharge, chargeRow, storeCharges } from './store-charges';

export interface ItemCharge {
  readonly ticketId: Id<'ticket'>;
  readonly itemId: Id<'catalogue_item'>;
  readonly quantity: string;
  /** An item that is sold, or the fee of a whole job. */
  readonly is?: 'item' | 'fee';
}

/** Charges a catalogue item on a ticket at its net price. */
export async function chargeItem(
  work: Work,
  book: HouseBook,
  { ticketId, itemId, quantity, is = 'item' }: ItemCharge,
): Promise<Outcome<{ id: Id<'charge'>; version: number }>> {
  const ticket = await work
    .tx('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .where('t.id', ticketId)
    .first('t.division_id', 't.client_id', 'c.tax_exempt');
  if (!ticket?.client_id) return refuse('not-possible-now', 'Say whose ticket this is first: a charge needs a client.');
  const on = dateOf(work.now, book.house.zone);
  const item = await itemForClient(work.tx, { itemId, clientId: ticket.client_id, quantity, on });
  if (!item) return refuse('invalid', 'There is no such catalogue item.', { itemId: 'choose one of the catalogue' });
  const { price, tax: itemTax } = netPriceOf(item);
  const { net, explanation } = chargeAmount({ quantity, unit: 'C62', unitPrice: price, currency: item.currency });
  const source = step(item.priced_by ?? `catalogue price of ${item.number}, ${item.basis}`, plainDecimal(item.price));
  const never = item.never_billed === null ? [] : [step(item.never_billed)];
  const owner = {
    divisionId: ticket.division_id,
    clientId: ticket.client_id,
    ticketId,
    personId: null,
    itemId,
    on,
    tax: taxOfCharge(itemTax, ticket.tax_exempt),
  };
  const [draft] = draftCharges({
    is,
    name: item.name,
    quantity,
    price,
    net,
    isNeverBilled: never.length > 0,
    why: [source, ...never, ...explanation],
  });
  const row = await (is === 'fee' ? storeFee : storeItem)(work, { draft: draft!, owner });
  await lookAtCharges(work, { ticketIds: [ticketId] });
  await work.tell('charge.added', row.id, { itemId: item.id, item: item.name, quantity });
  return row;
}

type Stored = { id: Id<'charge'>; version: number };

async function storeItem(work: Work, wanted: WantedCharge): Promise<Stored> {
  const [row] = await work.tx('charge').insert(chargeRow(wanted)).returning(['id', 'version']);
  return row!;
}

/** A ticket has one fee. */
async function storeFee(work: Work, wanted: WantedCharge): Promise<Stored> {
  const source = { ticket_id: wanted.owner.ticketId!, cause: 'fee' } as const;
  await storeCharges(work, source, [wanted]);
  return work.tx('charge').where(source).first('id', 'version');
}
