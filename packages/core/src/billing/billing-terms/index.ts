export * from './billing-day';
export * from './billing-terms';
export * from './billing-terms-wire';
export * from './invoice-part';
export * from './say-terms';
export * from './terms-of-form';
