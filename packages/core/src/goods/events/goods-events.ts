import { type Changes, type Id, sayChanges, type Was, type WordsOf } from '../../ground';

interface Price {
  /** A plain decimal. */
  readonly price: string;
  readonly basis: string;
}

export interface GoodsEvents {
  'item.added': { readonly name: string };
  /** What it costs the provider is not for all who read this, so only that it changed is told. */
  'item.changed': { readonly changes: Changes; readonly costChanged: boolean };
  'item.put-away': Record<never, never>;
  'item.brought-back': Record<never, never>;
  'client.price-set': { readonly itemId: Id<'catalogue_item'>; readonly item: string; readonly price: Was<Price | null> };
  'client.price-removed': { readonly itemId: Id<'catalogue_item'> };
}

/** What the form calls these columns. */
const LABELS = { basis: 'what that price is', tax_category: 'kind of tax', tax_percent: 'tax in percent' };

export const goodsWords: WordsOf<GoodsEvents> = {
  'item.added': ({ name }) => `added ${name}`,
  'item.changed': ({ changes, costChanged }) =>
    `changed ${[sayChanges(changes, LABELS), costChanged && 'cost'].filter(Boolean).join(', ') || 'nothing'}`,
  'item.put-away': () => 'put away',
  'item.brought-back': () => 'brought back',
  'client.price-set': ({ item, price: [, is] }) => `set their price of ${item} to ${is?.price ?? 'none'} ${is?.basis ?? ''}`.trimEnd(),
  'client.price-removed': () => 'took a price of their own away',
};
