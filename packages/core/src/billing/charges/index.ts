export * from './charge';
export * from './billing-link';
export * from './oddities';
export * from './draft-charges';
export * from './charges-wire';
export * from './charge-questions-wire';
