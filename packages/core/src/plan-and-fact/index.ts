export * from './plan-and-fact';
export * from './plan-and-fact-wire';
