export * from './own-rates-wire';
