export * from './hours';
export * from './plan-and-fact';
