export * from './booking-events';
