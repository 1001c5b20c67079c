export * from './closable';
export * from './closings-wire';
