export * from './outcome';
