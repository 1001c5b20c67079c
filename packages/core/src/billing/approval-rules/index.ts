export * from './approval-rule';
export * from './approval-rules-wire';
