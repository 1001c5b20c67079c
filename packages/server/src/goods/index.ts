/** What other domains use of this one. */
export { itemForClient, type ItemOfClient } from './catalogue/item-for-client';
export { netPriceOf } from './catalogue/net-price-of';
