import type { Id } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';

/** An item at what a client pays. */
export type ItemOfClient = Row<'catalogue_item'> & { readonly own_price: boolean };

/** An item as a client buys it: at their own price where they have one, else at the catalogue's. Source: docs/calculations.md, Prices and documents. */
export async function itemForClient(
  db: Db,
  itemId: Id<'catalogue_item'>,
  clientId: Id<'client'> | null,
): Promise<ItemOfClient | undefined> {
  const item: Row<'catalogue_item'> | undefined = await db('catalogue_item').where({ id: itemId }).first();
  if (!item) return undefined;
  const own = clientId ? await db('client_price').where({ client_id: clientId, item_id: itemId }).first('price', 'basis') : undefined;
  return { ...item, ...own, own_price: own !== undefined };
}
