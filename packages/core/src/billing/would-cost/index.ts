export * from './would-cost';
export * from './would-cost-wire';
export * from './cost-of-time';
