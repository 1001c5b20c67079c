export * from './access-wire';
