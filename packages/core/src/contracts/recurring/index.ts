export * from './periods';
export * from './recurring-line';
export * from './monthly-price';
export * from './worth-of-period';
export * from './bill-line';
