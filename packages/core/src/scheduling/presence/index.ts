export * from './presence-wire';
