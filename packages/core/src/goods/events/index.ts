export * from './goods-events';
