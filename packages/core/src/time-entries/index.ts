export * from './rate-card';
export * from './choose-rate';
export * from './split-by-band';
export * from './round-minutes';
export * from './rate-entry';
export * from './call-out-fee';
export * from './open-time';
export * from './time-entries-wire';
