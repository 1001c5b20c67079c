export * from './billing-events';
