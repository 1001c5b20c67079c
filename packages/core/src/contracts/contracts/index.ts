export * from './anchor';
export * from './contract-state';
export * from './renewal';
export * from './presets';
export * from './grant-units';
export * from './seat-overlap';
export * from './contracts-wire';
export * from './usual-line';
