export * from './books-wire';
