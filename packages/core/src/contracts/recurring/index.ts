export * from './periods';
export * from './recurring-line';
export * from './worth-of-period';
export * from './bill-line';
