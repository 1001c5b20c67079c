export * from './next-turn';
export * from './routines-wire';
