export * from './assets-wire';
