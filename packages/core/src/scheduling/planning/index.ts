export * from './plan-problem';
export * from './lay-route';
export * from './solve-plan';
export * from './plan-changes';
export * from './planning-wire';
