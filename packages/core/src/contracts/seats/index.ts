export * from './seat-state';
export * from './paste-seats';
export * from './change-units';
export * from './seats-wire';
export * from './plan-change';
