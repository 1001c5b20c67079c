export * from './choose-technician';
export * from './clearer-subject';
export * from './find-signature';
export * from './same-cause';
export * from './vote';
export * from './words-of';
export * from './intake-wire';
