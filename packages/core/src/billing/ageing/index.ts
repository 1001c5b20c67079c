export * from './age-of';
export * from './expected-cash';
export * from './ageing-wire';
