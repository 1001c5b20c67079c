export * from './notices-wire';
