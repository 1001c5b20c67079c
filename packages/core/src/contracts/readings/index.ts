export * from './readings-wire';
export * from './paste-readings';
