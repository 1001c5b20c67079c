export * from './gather-time';
export * from './time-report-wire';
