export * from './time-report';
export * from './plan-and-fact';
export * from './usage';
