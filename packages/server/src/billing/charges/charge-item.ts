import { chargeAmount, taxOfCharge } from '@core/billing';
import { dateOf, type Outcome, refuse } from '@core/ground';
import { plainDecimal } from '../../app/plain-decimal';
import type { Work } from '../../app/work';
import { itemForClient } from '../../goods/catalogue/item-for-client';
import { netPriceOf } from '../../goods/catalogue/net-price-of';
import type { HouseBook } from '../../house/house/house-book';

export interface ItemCharge {
  readonly ticketId: string;
  readonly itemId: string;
  readonly quantity: string;
  /** A product that is sold, or the fee of a whole job. */
  readonly kind?: 'product' | 'fee';
}

/** Charges a catalogue item on a ticket at its net price. */
export async function chargeItem(
  work: Work,
  book: HouseBook,
  { ticketId, itemId, quantity, kind = 'product' }: ItemCharge,
): Promise<Outcome<{ id: string; version: number }>> {
  const ticket = await work
    .tx('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .where('t.id', ticketId)
    .first('t.division_id', 't.client_id', 'c.tax_exempt');
  if (!ticket?.client_id) return refuse('not-possible-now', 'Say whose ticket this is first: a charge needs a client.');
  const item = await itemForClient(work.tx, itemId, ticket.client_id);
  if (!item) return refuse('invalid', 'There is no such catalogue item.', { itemId: 'choose one of the catalogue' });
  const { price, tax: itemTax } = netPriceOf(item);
  const { net, explanation } = chargeAmount(quantity, 'C62', price, item['currency']);
  const tax = taxOfCharge(itemTax, ticket.tax_exempt);
  const [row] = await work
    .tx('charge')
    .insert({
      division_id: ticket.division_id,
      client_id: ticket.client_id,
      ticket_id: ticketId,
      item_id: itemId,
      kind,
      on_date: dateOf(work.now, book.house.zone),
      description: item['name'],
      quantity,
      unit: 'C62',
      unit_price: price,
      net_minor: net.minor,
      currency: item['currency'],
      tax_category: tax.category,
      tax_percent: tax.percent,
      explanation: JSON.stringify([
        {
          rule: `${item['own_price'] ? "the client's own price" : 'catalogue price'} of ${item['number']}, ${item['basis']}`,
          figure: { unit: 'text', value: plainDecimal(item['price']) },
        },
        ...explanation,
      ]),
    })
    .returning(['id', 'version']);
  await work.tell('charge.added', row.id, { itemId: item['id'], item: item['name'], quantity });
  return row;
}
