export * from './payment-state';
export * from './allocate-money';
export * from './payments-wire';
