export * from './views-wire';
