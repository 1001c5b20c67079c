export * from './house-events';
export * from './person-events';
