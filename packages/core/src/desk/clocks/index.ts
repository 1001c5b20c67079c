export * from './clock';
export * from './replay-clock';
export * from './draw-clock';
export * from './clock-wire';
export * from './promise-wire';
