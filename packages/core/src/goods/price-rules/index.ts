export * from './price-rule';
export * from './price-rules-wire';
export * from './say-price-rule';
