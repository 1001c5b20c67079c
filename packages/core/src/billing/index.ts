export * from './books';
export * from './charges';
export * from './events';
export * from './invoices';
export * from './payments';
export * from './recurring-charges';
export * from './runs';
export * from './would-cost';
