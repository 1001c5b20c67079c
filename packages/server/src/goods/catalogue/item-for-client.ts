import type { Columns, Db } from '../../app/database';

/** An item as a client buys it: at their own price where they have one, else at the catalogue's. Source: docs/calculations.md, Prices and documents. */
export async function itemForClient(
  db: Db,
  itemId: string,
  clientId: string | null,
): Promise<(Columns & { own_price: boolean }) | undefined> {
  const item: Columns | undefined = await db('catalogue_item').where({ id: itemId }).first();
  if (!item) return undefined;
  const own = clientId ? await db('client_price').where({ client_id: clientId, item_id: itemId }).first('price', 'basis') : undefined;
  return { ...item, ...own, own_price: own !== undefined };
}
