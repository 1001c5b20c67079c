export * from './open-tab-wire';
export * from './tab-level';
