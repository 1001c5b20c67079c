export * from './read-appointments';
