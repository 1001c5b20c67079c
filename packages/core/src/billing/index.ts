export * from './charges';
export * from './invoices';
export * from './payments';
