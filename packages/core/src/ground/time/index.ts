export * from './instant';
export * from './local-date';
export * from './month';
export * from './day-number';
export * from './duration';
export * from './interval';
export * from './read-date';
export * from './say-moment';
