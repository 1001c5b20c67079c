export * from './evidence';
export * from './propose-entries';
export * from './judge-proposals';
export * from './proposed-entries-wire';
