export * from './gather-hours';
export * from './hours-wire';
