export * from './relations-wire';
