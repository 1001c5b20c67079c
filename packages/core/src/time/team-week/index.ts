export * from './is-complete';
export * from './team-week-wire';
