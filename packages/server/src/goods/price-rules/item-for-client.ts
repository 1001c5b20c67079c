import { priceByRules, type PriceRule, sayPriceSet } from '@core/goods';
import type { DecimalText, Id, LocalDate } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import { rulesForClient } from './read-price-rules';

/** An item at what a client pays for one of it. */
export type ItemOfClient = Row<'catalogue_item'> & {
  /** The rule that says so, in words; null is the catalogue. */
  readonly priced_by: string | null;
  /** The rule that says it is never billed, in words. */
  readonly never_billed: string | null;
};

export interface ItemAsked {
  readonly itemId: Id<'catalogue_item'>;
  readonly clientId: Id<'client'> | null;
  readonly quantity: DecimalText;
  readonly on: LocalDate;
}

const HOMES = { contract: "the contract's", client: "the client's", house: 'the house' } as const;

/** An item as a client buys so many of it on a day. Source: docs/calculations.md, Price rules. */
export async function itemForClient(db: Db, { itemId, clientId, quantity, on }: ItemAsked): Promise<ItemOfClient | undefined> {
  const item: Row<'catalogue_item'> | undefined = await db('catalogue_item').where({ id: itemId }).first();
  if (!item) return undefined;
  const listed = { price: plainDecimal(item.price), basis: item.basis };
  const { unit, by, neverBilled } = priceByRules(
    { itemId, category: item.category, quantity, on, listed },
    await rulesForClient(db, { clientId, on }),
  );
  const say = (rule: PriceRule | null) =>
    rule && `${HOMES[rule.home]} price rule for ${ofWhat(rule, item)}: ${sayPriceSet(rule.sets, item.currency)}`;
  return { ...item, ...unit, priced_by: say(by), never_billed: say(neverBilled) };
}

function ofWhat({ itemId, category, fromQuantity }: PriceRule, { number }: Row<'catalogue_item'>): string {
  const what = itemId ? number : (category ?? 'everything');
  return Number(fromQuantity) > 1 ? `${what} from ${fromQuantity} on` : what;
}
