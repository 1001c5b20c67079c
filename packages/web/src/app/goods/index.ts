/** What other domains use of this one. */
export { PriceRules } from './price-rules/price-rules';
