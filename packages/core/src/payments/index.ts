export * from './payment-state';
