export * from './compare-plan';
export * from './plan-and-fact-wire';
