export * from './invoice';
export * from './invoice-totals';
export * from './invoice-lines';
export * from './credit-note';
export * from './invoice-number';
export * from './invoice-ubl';
export * from './invoices-wire';
