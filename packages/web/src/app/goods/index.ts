/** What other domains use of this one. */
export { ClientPrices } from './catalogue/client-prices';
