import type { Id, Was, WordsOf } from '../../ground';

interface Price {
  /** A plain decimal. */
  readonly price: string;
  readonly basis: string;
}

export interface GoodsEvents {
  'item.added': { readonly name: string };
  'item.changed': Record<never, never>;
  'item.put-away': Record<never, never>;
  'item.brought-back': Record<never, never>;
  'client.price-set': { readonly itemId: Id<'catalogue_item'>; readonly item: string; readonly price: Was<Price | null> };
  'client.price-removed': { readonly itemId: Id<'catalogue_item'> };
}

export const goodsWords: WordsOf<GoodsEvents> = {
  'item.added': ({ name }) => `added ${name}`,
  'item.changed': () => 'changed',
  'item.put-away': () => 'put away',
  'item.brought-back': () => 'brought back',
  'client.price-set': ({ item, price: [, is] }) => `set their price of ${item} to ${is?.price ?? 'none'} ${is?.basis ?? ''}`.trimEnd(),
  'client.price-removed': () => 'took a price of their own away',
};
