export * from './run-line';
export * from './run-state';
export * from './runs-wire';
export * from './say-reason';
export * from './why-differs';
