export * from './priority';
