export * from './choose-contract';
export * from './choice-wire';
