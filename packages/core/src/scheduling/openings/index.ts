export * from './held-until';
export * from './starts-in';
export * from './openings-wire';
