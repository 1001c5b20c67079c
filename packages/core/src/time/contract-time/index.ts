export * from './draw-down';
export * from './contract-time-wire';
export * from './contract-choice-wire';
