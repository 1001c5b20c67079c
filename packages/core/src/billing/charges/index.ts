export * from './charge';
export * from './charges-wire';
