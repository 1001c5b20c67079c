export * from './client-events';
