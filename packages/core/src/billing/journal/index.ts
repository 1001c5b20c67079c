export * from './journal-entry';
export * from './write-journal';
export * from './journal-wire';
