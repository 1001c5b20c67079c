export * from './search-wire';
export * from './search-words';
