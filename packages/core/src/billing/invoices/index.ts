export * from './invoice';
export * from './invoice-totals';
export * from './invoice-lines';
export * from './invoice-number';
export * from './invoice-ubl';
export * from './invoices-wire';
