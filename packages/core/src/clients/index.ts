export * from './clients-wire';
