export * from './jobs-wire';
