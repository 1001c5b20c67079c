export * from './id';
export * from './param-ids';
