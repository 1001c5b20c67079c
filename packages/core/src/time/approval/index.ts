export * from './mark-odd';
export * from './correct-time';
export * from './approval-wire';
