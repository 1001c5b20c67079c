export * from './uploads-wire';
