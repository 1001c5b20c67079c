export * from './evidence';
export * from './judge-proposals';
export * from './propose-entries';
export * from './proposed-entries-wire';
export * from './shows-work';
