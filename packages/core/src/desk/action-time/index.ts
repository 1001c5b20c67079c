export * from './propose-minutes';
export * from './action-time-wire';
