export * from './templates-wire';
