export * from './contracts';
export * from './cover';
export * from './events';
export * from './recurring';
