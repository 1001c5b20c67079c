export * from './permissions';
export * from './reach';
