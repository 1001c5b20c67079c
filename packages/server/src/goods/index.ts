/** What other domains use of this one. */
export { itemForClient, type ItemOfClient } from './price-rules/item-for-client';
export { netPriceOf } from './catalogue/net-price-of';
