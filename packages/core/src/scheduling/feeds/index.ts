export * from './feeds-wire';
