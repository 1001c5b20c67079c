export * from './raise-price';
export * from './prices-wire';
