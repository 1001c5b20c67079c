export * from './escalates';
export * from './escalation-wire';
