import { chargeAmount, taxOfCharge } from '@core/billing';
import type { Id } from '@core/ground';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import type { Work } from '../../app/work';
import { lookAtCharges } from './look-at-charges';
import { itemForClient, type ItemOfClient, netPriceOf } from '../../goods';

/** What is proposed beside time is charged to the new client, at the price and tax that they pay; a price set by hand stays. */
export async function moveCharges(
  work: Work,
  ticketId: Id<'ticket'>,
  { was, is: clientId }: { readonly was: string | null; readonly is: string },
): Promise<void> {
  const { tax_exempt, division_id } = (await work.tx('client').where({ id: clientId }).first('tax_exempt', 'division_id'))!;
  const charges: Row<'charge', 'id' | 'item_id' | 'quantity' | 'unit' | 'unit_price' | 'on_date'>[] = await work
    .tx('charge')
    .where({ ticket_id: ticketId, state: 'proposed' })
    .whereNull('time_entry_id')
    .select('id', 'item_id', 'quantity', 'unit', 'unit_price', 'on_date');
  const at = ({ item_id, quantity, on_date }: (typeof charges)[number], of: string | null) =>
    itemForClient(work.tx, { itemId: item_id!, clientId: of, quantity: plainDecimal(quantity), on: on_date });
  for (const charge of charges) {
    const [before, now] = charge.item_id ? [await at(charge, was), await at(charge, clientId)] : [undefined, undefined];
    const tax = taxOfCharge(now ? netPriceOf(now).tax : work.book.division(division_id).labourTax, tax_exempt);
    const asListed = before && plainDecimal(charge.unit_price) === plainDecimal(netPriceOf(before).price);
    const priced = now && asListed ? repriced(charge, now) : {};
    await work
      .tx('charge')
      .where({ id: charge.id })
      .update({ client_id: clientId, division_id, tax_category: tax.category, tax_percent: tax.percent, ...priced });
  }
  await lookAtCharges(work, { ticketIds: [ticketId] });
}

function repriced(charge: Row<'charge', 'quantity' | 'unit'>, item: ItemOfClient): Record<string, unknown> {
  const { price } = netPriceOf(item);
  const { net, explanation } = chargeAmount({
    quantity: plainDecimal(charge.quantity),
    unit: charge.unit,
    unitPrice: price,
    currency: item.currency,
  });
  return {
    unit_price: price,
    net_minor: net.minor,
    explanation: JSON.stringify([{ rule: `what the client pays for ${item.number}` }, ...explanation]),
  };
}
