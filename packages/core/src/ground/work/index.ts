export * from './work';
