export * from './draft-recurring';
export * from './names-of-period';
export * from './recurring-charges-wire';
