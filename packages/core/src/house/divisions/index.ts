export * from './divisions-wire';
