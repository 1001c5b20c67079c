export * from './cost-rates-wire';
