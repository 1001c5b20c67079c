export * from './unit-price';
export * from './catalogue-wire';
