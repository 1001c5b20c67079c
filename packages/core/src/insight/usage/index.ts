export * from './usage-report';
export * from './usage-csv';
export * from './usage-wire';
export * from './used-contract';
