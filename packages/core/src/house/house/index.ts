export * from './house-wire';
