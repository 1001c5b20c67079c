export * from './search-wire';
