export * from './draw-down';
export * from './contract-time-wire';
