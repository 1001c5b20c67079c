export * from './permissions';
export * from './access-wire';
