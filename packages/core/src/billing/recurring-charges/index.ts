export * from './draft-recurring';
export * from './recurring-charges-wire';
