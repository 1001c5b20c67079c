export * from './catalogue';
export * from './price-rules';
export * from './events';
