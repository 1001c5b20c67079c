export * from './storable-text';
