export * from './time-events';
