export * from './contract-events';
