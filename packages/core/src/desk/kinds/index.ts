export * from './kinds-wire';
